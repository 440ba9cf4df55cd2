import CheckBoxIcon from '@mui/icons-material/CheckBox';
import CheckBoxOutlineBlankIcon from '@mui/icons-material/CheckBoxOutlineBlank';
import { Box, Button, ButtonBase, Stack, Typography } from '@mui/material';
import type { BenchLine } from '../../../../core/instruct/benchLines.ts';
import { LEAST_TARGET, fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

const isNext = (ticked: ReadonlySet<unknown>) => (line: BenchLine) => !line.heads && !ticked.has(line.mark);

/** The ticked marks, and what ticks one or takes its tick away. */
function ticksOf(lines: readonly BenchLine[], doing: Doing) {
  const ticked = new Set(doing.record?.ticked);
  return {
    ticked,
    tick(mark: string) {
      // What stands ticked of words that are said no more is let go.
      const now = new Set(lines.map((l) => l.mark).filter((m) => ticked.has(m)));
      if (!now.delete(mark)) now.add(mark);
      doing.change({ ticked: [...now] });
    },
  };
}

/** What is to be done next, where it can be read and ticked without looking for it; nothing once all is ticked. */
export function NextLine({ lines, doing }: { lines: readonly BenchLine[]; doing: Doing }) {
  const { ticked, tick } = ticksOf(lines, doing);
  const next = doing.done ? undefined : lines.find(isNext(ticked));
  if (!next) return null;
  return (
    <Stack direction="row" sx={{ gap: 2, alignItems: 'center', justifyContent: 'space-between' }}>
      <Typography role="status" aria-label="Next" sx={{ fontSize: 26, lineHeight: 1.25, color: fire.ember }}>
        {[next.big, next.text].filter(Boolean).join(' ')}
      </Typography>
      <Button variant="outlined" onClick={() => tick(next.mark)} sx={{ flex: 'none' }}>
        Tick
      </Button>
    </Stack>
  );
}

/** The instruction, line by line, to be ticked; the next one stands out. */
export function Lines({ lines, doing }: { lines: readonly BenchLine[]; doing: Doing }) {
  const { ticked, tick } = ticksOf(lines, doing);
  const next = lines.findIndex(isNext(ticked));
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
