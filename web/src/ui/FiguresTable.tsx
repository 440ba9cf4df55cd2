import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { colours } from './theme.ts';

interface FiguresTableProps {
  /** A head in brackets is only heard. */
  heads: readonly string[];
  /** Heads over figures, which stand to the right. */
  right?: readonly string[];
  /** Rows parted by lines, as on paper and in long tables. */
  lined?: boolean;
  /** Rows that hold something to press, which has room of its own. */
  tight?: boolean;
  children: ReactNode;
}

/** A table under its heads; the rows are what it is given. */
export function FiguresTable({
  heads,
  right = [],
  lined = false,
  tight = false,
  children,
}: FiguresTableProps) {
  const line = `1px solid ${colours.line}`;
  return (
    <Box
      component="table"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        '& th, & td': {
          textAlign: 'left',
          py: 0.5,
          pr: 1.5,
          verticalAlign: lined || tight ? 'middle' : 'top',
        },
        '& td': { borderBottom: lined ? line : undefined, ...(tight && { py: 0.1 }) },
        '& th': { fontWeight: 600, borderBottom: line },
      }}
    >
      <thead>
        <tr>
          {heads.map((head) =>
            head.startsWith('(') ? (
              <th key={head} aria-label={head.slice(1, -1)} />
            ) : (
              <th key={head} style={right.includes(head) ? { textAlign: 'right' } : undefined}>
                {head}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </Box>
  );
}
