import CheckBoxIcon from '@mui/icons-material/CheckBox';
import CheckBoxOutlineBlankIcon from '@mui/icons-material/CheckBoxOutlineBlank';
import { Box, ButtonBase, Typography } from '@mui/material';
import type { BenchLine } from '../../../../core/instruct/benchLines.ts';
import { LEAST_TARGET, fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

/** The instruction, line by line, to be ticked; the next one stands out. */
export function Lines({ lines, doing }: { lines: readonly BenchLine[]; doing: Doing }) {
  const ticked = new Set(doing.record?.ticked);
  const next = lines.findIndex((line, i) => !line.heads && !ticked.has(i));
  const tick = (i: number) => {
    const now = new Set(ticked);
    if (!now.delete(i)) now.add(i);
    doing.change({ ticked: [...now].sort((a, b) => a - b) });
  };
  return (
    <Box component="ol" aria-label="What to do" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line, i) =>
        line.heads ? (
          <Box component="li" key={i} sx={{ py: 1 }}>
            {line.text}
          </Box>
        ) : (
          <li key={i}>
            <ButtonBase
              role="checkbox"
              aria-checked={ticked.has(i)}
              onClick={() => tick(i)}
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
                color: ticked.has(i) ? fire.right : fire.ink,
              }}
            >
              {ticked.has(i) ? (
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
