import { colours } from '../../ui/theme.ts';

/** How tables of figures look on this screen. */
export const tableLook = {
  borderCollapse: 'collapse',
  width: '100%',
  '& th, & td': { textAlign: 'left', py: 0.5, pr: 1.5, verticalAlign: 'top' },
  '& th': { fontWeight: 600, borderBottom: `1px solid ${colours.line}` },
} as const;
