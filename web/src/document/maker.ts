import { create } from 'zustand';

const KEY = 'retablo maker';

function kept(): string {
  try {
    return localStorage.getItem(KEY) ?? '';
  } catch {
    return '';
  }
}

/** Who works at this device; '' where nobody said. */
export const useMaker = create<{ readonly name: string }>(() => ({ name: kept() }));

/** Kept on this device alone. */
export function setMaker(name: string): void {
  useMaker.setState({ name });
  try {
    localStorage.setItem(KEY, name);
  } catch {
    // A browser that keeps nothing: it is known until the page is closed.
  }
}
