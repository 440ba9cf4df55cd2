import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import { Box, Button, Drawer, IconButton, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { z } from 'zod';
import { moveOf } from '../../../../core/moves/index.ts';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';
import { makerName } from '../../../../core/plan/handover.ts';
import { sectionsOf } from '../../../../core/plan/sections.ts';
import { doneSteps } from '../../../../core/records/record.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { useRole } from '../../document/door.ts';
import { setMaker, useMaker } from '../../document/maker.ts';
import { dropRefused, useRecords } from '../../document/records.ts';
import { WordField } from '../../ui/fields/WordField.tsx';
import { fire } from '../../ui/fireTheme.ts';
import { fonts } from '../../ui/theme.ts';

/** What it comes to, in a line. */
function targetText({ after }: StepResult, { shop }: Evaluation): string {
  if (!after?.[0]) return '';
  const sections = sectionsOf(after, shop.lengths).join(' and ');
  return `${after.length > 1 ? `${after.length} pieces, ` : ''}${sections}, ${formatLength(after[0].lengthMm, shop.lengths)} long`;
}

interface HeadProps {
  stands: Evaluation;
  result: StepResult;
  order: readonly StepResult[];
  go(to: StepResult): void;
}

/** Which bar, which move of how many, what it comes to; all moves beside it. */
export function Head({ stands, result, order, go }: HeadProps) {
  const { id } = useParams();
  const [open, setOpen] = useState(false);
  const ofBench = useRole() === 'bench';
  const back = ofBench ? '/' : `/pieces/${id}`;
  const lane = stands.lanes.find((l) => l.steps.includes(result))!;
  const done = doneSteps(stands.plan.records);
  return (
    <Box component="header" sx={{ px: 2, pt: 1, pb: 1.5 }}>
      <Stack direction="row" sx={{ alignItems: 'center', gap: 1 }}>
        <IconButton component={Link} to={back} aria-label={ofBench ? 'To the shelf' : 'To the plan'}>
          <ArrowBackIcon fontSize="large" />
        </IconButton>
        <Box sx={{ minWidth: 0, flex: 1 }}>
          <Typography noWrap sx={{ fontFamily: fonts.title }}>
            {stands.plan.name}
          </Typography>
          <Typography noWrap color="text.secondary">
            {stands.lanes.length > 1 && `${lane.lane.name}, `}move {order.indexOf(result) + 1} of{' '}
            {order.length}
          </Typography>
        </Box>
        <Waiting />
        <Button variant="outlined" onClick={() => setOpen(true)}>
          All moves
        </Button>
      </Stack>
      <Stack direction="row" aria-hidden sx={{ gap: 0.5, my: 1 }}>
        {order.map((r) => (
          <Box
            key={r.step.id}
            sx={{
              flex: 1,
              height: 14,
              borderRadius: '8px 8px 2px 2px',
              background: r === result ? fire.ember : done.has(r.step.id) ? fire.right : fire.line,
            }}
          />
        ))}
      </Stack>
      <Typography variant="h1">{moveOf(result.step.kind).title}</Typography>
      <Typography color="text.secondary">{targetText(result.reckoned ?? result, stands)}</Typography>
      <Drawer
        anchor="right"
        open={open}
        onClose={() => setOpen(false)}
        slotProps={{ paper: { 'aria-label': 'Moves of this piece' } }}
      >
        <WhoWrites />
        <Stack sx={{ width: 'min(560px, 92vw)', p: 2, gap: 1 }} component="nav" aria-label="All moves">
          {order.map((r, i) => (
            <Button
              key={r.step.id}
              variant="outlined"
              aria-current={r === result ? 'step' : undefined}
              onClick={() => {
                setOpen(false);
                go(r);
              }}
              sx={{
                justifyContent: 'flex-start',
                textAlign: 'left',
                ...(done.has(r.step.id) && { color: fire.right }),
              }}
            >
              {i + 1}. {moveOf(r.step.kind).title}
              {done.has(r.step.id) ? ', done' : r.after ? '' : ', cannot be done yet'}
            </Button>
          ))}
        </Stack>
      </Drawer>
    </Box>
  );
}

/** Whose hands are at this device: it goes with everything that is written from then on. */
function WhoWrites() {
  const name = useMaker((state) => state.name);
  return (
    <Box sx={{ p: 2, pb: 0 }}>
      <WordField
        label="Who writes here"
        value={name}
        schema={makerName.or(z.literal(''))}
        onChange={setMaker}
      />
    </Box>
  );
}

/** What this device has written and the server has not; nothing where nothing waits. */
function Waiting() {
  const waiting = useRecords((state) => state.waiting);
  if (waiting.length === 0) return null;
  const trouble = waiting.find((w) => w.trouble)?.trouble;
  return (
    <>
      <Typography role="status" color={trouble ? 'error' : 'text.secondary'} sx={{ maxWidth: 300 }}>
        {trouble ?? `${waiting.length} to send`}
      </Typography>
      {trouble && (
        <Button variant="text" onClick={dropRefused}>
          Let it go
        </Button>
      )}
    </>
  );
}
