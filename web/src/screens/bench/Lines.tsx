import CheckBoxIcon from '@mui/icons-material/CheckBox';
import CheckBoxOutlineBlankIcon from '@mui/icons-material/CheckBoxOutlineBlank';
import { Box, ButtonBase, Typography } from '@mui/material';
import type { BenchLine } from '../../../../core/instruct/benchLines.ts';
import { LEAST_TARGET, fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

/** The instruction, line by line, to be ticked; the next one stands out. */
export function Lines({ lines, doing }: { lines: readonly BenchLine[]; doing: Doing }) {
  const ticked = new Set(doing.record?.ticked);
  const next = lines.findIndex((line) => !line.heads && !ticked.has(line.mark));
  const tick = (mark: string) => {
    // What stands ticked of words that are said no more is let go.
    const now = new Set(lines.map((l) => l.mark).filter((m) => ticked.has(m)));
    if (!now.delete(mark)) now.add(mark);
    doing.change({ ticked: [...now] });
  };
  return (
    <Box component="ol" aria-label="What to do" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line, i) =>
        line.heads ? (
          <Box component="li" key={line.mark} sx={{ py: 1 }}>
            {line.text}
          </Box>
        ) : (
          <li key={line.mark}>
            <ButtonBase
              role="checkbox"
              aria-checked={ticked.has(line.mark)}
              onClick={() => tick(line.mark)}
              disabled={doing.done}
              sx={{
                width: '100%',
                minHeight: LEAST_TARGET,
                display: 'flex',
                alignItems: 'center',
                justifyContent: 'flex-start',
                textAlign: 'left',
                gap: 1.5,
                px: 1,
                py: 0.75,
                font: 'inherit',
                fontSize: 22,
                borderTop: `1px solid ${fire.line}`,
                background: i === next ? fire.raised : 'none',
                color: ticked.has(line.mark) ? fire.right : fire.ink,
              }}
            >
              {ticked.has(line.mark) ? (
                <CheckBoxIcon fontSize="large" />
              ) : (
                <CheckBoxOutlineBlankIcon fontSize="large" />
              )}
              {line.big && (
                <Typography variant="numbers" component="span" sx={{ minWidth: 150, whiteSpace: 'nowrap' }}>
                  {line.big}
                </Typography>
              )}
              <span>{line.text}</span>
            </ButtonBase>
          </li>
        ),
      )}
    </Box>
  );
}
