import { useEffect } from 'react';
import { redo, removeStep, select, undo, usePlanStore } from '../../document/planStore.ts';

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.matches('input, textarea, select, [role="combobox"], [role="menuitem"]') ||
    target.closest('[role="dialog"], [role="menu"], [role="listbox"]') !== null);

function walk(to: (at: number, last: number) => number): void {
  const { plan, selectedId } = usePlanStore.getState();
  const ids = plan?.lanes.flatMap((l) => l.steps.map((s) => s.id)) ?? [];
  if (ids.length === 0) return;
  const next = to(ids.indexOf(selectedId ?? ''), ids.length - 1);
  const id = ids[Math.max(0, Math.min(ids.length - 1, next))];
  select(id);
  document.querySelector<HTMLElement>(`[data-step="${id}"]`)?.focus();
}

/** Keys of the Plan screen; entries keep their own. */
export function useKeys(help: () => void): void {
  useEffect(() => {
    const press = (key: KeyboardEvent): void => {
      if (key.ctrlKey || key.metaKey || key.altKey || isTyping(key.target)) return;
      const act = actionFor(key, help);
      if (!act) return;
      key.preventDefault();
      act();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [help]);
}

function actionFor(key: KeyboardEvent, help: () => void): (() => void) | undefined {
  const onPanel =
    key.target instanceof HTMLElement &&
    (key.target === document.body || key.target.dataset.step !== undefined);
  switch (key.key) {
    case 'ArrowLeft':
      return onPanel ? () => walk((at) => at - 1) : undefined;
    case 'ArrowRight':
      return onPanel ? () => walk((at) => at + 1) : undefined;
    case 'Home':
      return onPanel ? () => walk(() => 0) : undefined;
    case 'End':
      return onPanel ? () => walk((_, last) => last) : undefined;
    case 'Enter':
      return onPanel
        ? () =>
            document
              .querySelector<HTMLElement>('[data-numbers] input, [data-numbers] [role="combobox"]')
              ?.focus()
        : undefined;
    case 'Delete': {
      const { selectedId } = usePlanStore.getState();
      return onPanel && key.target !== document.body && selectedId ? () => removeStep(selectedId) : undefined;
    }
    case 'z':
      return undo;
    case 'Z':
      return redo;
    case '?':
      return help;
    default:
      return undefined;
  }
}
