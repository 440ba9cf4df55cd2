/** Hands a file to the browser to be kept. */
export function download(name: string, content: Blob): void {
  const url = URL.createObjectURL(content);
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The browser has taken it by the time this runs.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A file's name from a piece's: letters and digits of any script, dashes between. */
export const fileName = (name: string, more: string): string =>
  `${
    name
      .trim()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '')
      .toLowerCase() || 'piece'
  }${more}`;
