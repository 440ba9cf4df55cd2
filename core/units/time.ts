/** A span of time as said at the bench: `45 s`, `19 min`, `2 h 05 min`. */
export function formatTime(seconds: number): string {
  if (!Number.isFinite(seconds)) return 'more than a day';
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 90) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}
