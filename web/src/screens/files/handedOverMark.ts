/** How the revision is called that was handed over. */
export const handedOverMark = (to: string): string => `handed over to ${to}`;
