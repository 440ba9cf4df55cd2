import { FiguresTable } from '../../ui/FiguresTable.tsx';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import ErrorIcon from '@mui/icons-material/Error';
import { Box, Button, Typography } from '@mui/material';
import { useDeferredValue, useMemo, useState } from 'react';
import { type Evaluation, allSteps, ifOnlySoLong, roundsAffordable } from '../../../../core/plan/index.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { roundsFigure } from '../../../../core/judgement/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { editPlan } from '../../document/planStore.ts';
import { lengthMm, quantityOf } from '../../../../core/units/quantities.ts';
import { Section } from '../../ui/Section.tsx';

const only = quantityOf(lengthMm('Only'));

/** What else the steel could do: more rounds, or less of it than planned. */
export function WhatIf({ evaluation }: { evaluation: Evaluation }) {
  return (
    <Section title="What if…">
      <MoreRounds evaluation={evaluation} />
      <OnlySoLong evaluation={evaluation} />
    </Section>
  );
}

function MoreRounds({ evaluation }: { evaluation: Evaluation }) {
  const { shop } = evaluation;
  const later = useDeferredValue(evaluation);
  // Beyond the first that falls short, more only fall shorter.
  const answers = useMemo(() => {
    const all = roundsAffordable(later);
    const short = all.findIndex((a) => a.rounds > 0 && !a.reached);
    return short < 0 ? all : all.slice(0, short + 1);
  }, [later]);
  if (answers.length < 2)
    return (
      <Typography variant="body2" color="text.secondary">
        More four-way rounds can be tried once the finished bar’s lane has a square bar.
      </Typography>
    );
  return (
    <Box>
      <Typography variant="h3">…there were more four-way rounds</Typography>
      <FiguresTable heads={['More', 'Comes to', 'Bands', '(Do it)']} right={['Comes to', 'Bands']}>
        {answers.map((answer) => {
          const { rounds, plan, lengthMm, reached, bandMm, seen } = answer;
          return (
            <tr key={rounds}>
              <td>{rounds === 0 ? 'none' : rounds}</td>
              <td
                style={{
                  textAlign: 'right',
                  whiteSpace: 'nowrap',
                  color: reached ? colours.verdigris : colours.alarm,
                }}
              >
                <Box component="span" sx={{ display: 'inline-flex', alignItems: 'center', gap: 0.5 }}>
                  {reached ? (
                    <CheckCircleIcon sx={{ fontSize: 16 }} titleAccess="reaches the goal" />
                  ) : (
                    <ErrorIcon sx={{ fontSize: 16 }} titleAccess="falls short" />
                  )}
                  <Asked figure={roundsFigure(answer, evaluation)} />
                </Box>
              </td>
              <td style={{ textAlign: 'right', whiteSpace: 'nowrap', fontFamily: fonts.numbers }}>
                {bandMm > 0 ? formatFine(bandMm, shop.lengths) : '–'}
                {bandMm > 0 && !seen && (
                  <Box sx={{ fontFamily: fonts.body, fontSize: '0.85rem' }}>reads grey</Box>
                )}
              </td>
              <td style={{ textAlign: 'right', paddingRight: 0 }}>
                {rounds > 0 && lengthMm > 0 && (
                  <Button
                    size="small"
                    sx={{ py: 0, minWidth: 0 }}
                    aria-label={`Plan ${rounds} more`}
                    onClick={() => editPlan(() => plan, 'rounds')}
                  >
                    Plan it
                  </Button>
                )}
              </td>
            </tr>
          );
        })}
      </FiguresTable>
    </Box>
  );
}

function OnlySoLong({ evaluation }: { evaluation: Evaluation }) {
  const { shop, plan } = evaluation;
  const candidates = allSteps(evaluation).filter((s) => s.after?.length === 1 && !s.after[0].loose);
  const [stepId, setStepId] = useState<string | null>(null);
  const [lengthMm, setLength] = useState<number | null>(null);
  const result = candidates.find((s) => s.step.id === stepId) ?? candidates[0];
  if (!result) return null;
  const is = result.after![0].lengthMm;
  const asked = Math.min(lengthMm ?? is * 0.9, is);
  const then = ifOnlySoLong(evaluation, result, asked);
  const numberOf = (id: string) => {
    const lane = plan.lanes.find((l) => l.steps.some((s) => s.id === id))!;
    return `${plan.lanes.length > 1 ? `${lane.name} ` : ''}${lane.steps.findIndex((s) => s.id === id) + 1}`;
  };
  const comes = then?.goal.sizes?.lengthMm ?? 0;
  return (
    <Box>
      <Typography variant="h3" sx={{ mb: 1 }}>
        …a bar came out only so long
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 120px', gap: 1 }}>
        <Choice
          label="After"
          value={result.step.id}
          options={candidates.map(
            (s) => [s.step.id, `${numberOf(s.step.id)}. ${moveOf(s.step.kind).title}`] as const,
          )}
          onChange={(id) => {
            setStepId(id);
            setLength(null);
          }}
        />
        <QuantityField of={{ ...only, most: is }} value={asked} onChange={setLength} />
      </Box>
      <Typography sx={{ mt: 1 }} role="status" aria-label="What it comes to then">
        {then ? (
          <>
            The finished bar comes to{' '}
            <b
              style={{
                fontFamily: fonts.numbers,
                color: then.goal.reached ? colours.verdigris : colours.alarm,
              }}
            >
              {comes > 0 ? formatLength(comes, shop.lengths) : 'nothing'}
            </b>
            {then.goal.reached
              ? ', which is enough.'
              : then.goal.unfinished
                ? ': not welded or not solid yet.'
                : `: too short for ${formatLength(plan.goal.lengthMm, shop.lengths)}.`}
          </>
        ) : (
          'That is as long as it is planned.'
        )}
      </Typography>
    </Box>
  );
}
