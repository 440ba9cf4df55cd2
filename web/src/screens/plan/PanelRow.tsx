import AddIcon from '@mui/icons-material/Add';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import ErrorIcon from '@mui/icons-material/Error';
import WarningAmberIcon from '@mui/icons-material/WarningAmber';
import { Box, Typography } from '@mui/material';
import { memo, useEffect, useRef } from 'react';

import type { Band } from '../../../../core/forecast/index.ts';
import { findingsOf } from '../../../../core/judgement/index.ts';
import {
  type Evaluation,
  type LaneResult,
  type StepResult,
  sectionsInShort,
} from '../../../../core/plan/index.ts';
import { isDone } from '../../../../core/records/record.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import type { LengthDisplay } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { useLater } from '../../ui/useLater.ts';
import { SmallFace } from '../../benches/steel/SmallFace.tsx';
import { AddMove } from './AddMove.tsx';
import { useForecast } from '../../document/learning.ts';
import { select } from '../../document/planStore.ts';

const PICTURE = { width: 104, height: 76 };
/** Where several bars share the room. */
const LOW = { width: 104, height: 54 };
/** Lanes that are not looked at are slim: a small picture, and what it is beside it. */
const SLIM = { width: 42, height: 34 };

/** Of a small picture, px. */
interface Room {
  readonly width: number;
  readonly height: number;
}

interface PanelRowProps {
  evaluation: Evaluation;
  lane: LaneResult;
  selectedId: string | null;
  slim: boolean;
  /** Several lanes share the room: lower pictures leave more of it to the steel. */
  low: boolean;
}

/** One lane of an evaluation, which may lag behind the plan while a number is being typed: a framed panel for every move, showing the steel after it. The row scrolls on its own. */
export const PanelRow = memo(function PanelRow({ evaluation, lane, selectedId, slim, low }: PanelRowProps) {
  const picture = slim ? SLIM : low ? LOW : PICTURE;
  const drawn = useLater() || !slim;
  const { forecast } = useForecast(evaluation);
  return (
    <Box
      component="nav"
      aria-label={`Moves of ${lane.lane.name}`}
      sx={{
        display: 'flex',
        gap: slim ? 1 : 1.25,
        overflowX: 'auto',
        p: slim ? '3px 6px' : '7px 7px 5px',
        scrollbarWidth: 'thin',
        minWidth: 0,
        flex: 1,
        minHeight: slim ? SLIM.height + 18 : undefined,
      }}
    >
      {(drawn ? lane.steps : []).map((result, i) => (
        <Panel
          key={result.step.id}
          evaluation={evaluation}
          result={result}
          number={i + 1}
          selected={result.step.id === selectedId}
          slim={slim}
          picture={picture}
          lengthBand={forecast?.steps.find((s) => s.step === result.step.id)?.lengthMm}
        />
      ))}
      {!slim && <AddPanel lane={lane} picture={picture} />}
    </Box>
  );
});

function AddPanel({ lane, picture }: { lane: LaneResult; picture: Room }) {
  return (
    <AddMove lane={lane} at="end">
      {(open) => (
        <Box
          component="button"
          onClick={open}
          sx={{
            ...frame(false, false),
            width: picture.width + 16,
            flex: 'none',
            alignSelf: 'flex-start',
            height: picture.height + 32,
            borderStyle: 'dashed',
            color: colours.oxide,
            cursor: 'pointer',
            display: 'grid',
            placeContent: 'center',
            justifyItems: 'center',
            font: 'inherit',
            fontWeight: 600,
          }}
        >
          <AddIcon />
          Add a move
        </Box>
      )}
    </AddMove>
  );
}

/** A shallow arched head and a thin double frame: the one ornament. */
const frame = (selected: boolean, slim: boolean) => ({
  border: `1px solid ${selected ? colours.gilding : colours.line}`,
  borderRadius: slim ? '28px 28px 3px 3px / 10px 10px 3px 3px' : '60px 60px 4px 4px / 22px 22px 4px 4px',
  background: colours.paper,
  boxShadow: selected
    ? `0 0 0 3px ${colours.paper}, 0 0 0 6px ${colours.gilding}`
    : `0 0 0 2px ${colours.gesso}, 0 0 0 3px ${colours.line}`,
});

/** What lies aside meanwhile, in the corner of the picture. */
const asideSign = (slim: boolean) =>
  ({
    position: 'absolute',
    top: slim ? 26 : 8,
    left: slim ? 2 : 4,
    px: 0.5,
    background: colours.paper,
    border: `1px solid ${colours.line}`,
    borderRadius: 1,
    color: colours.ink,
  }) as const;

/** Done at the bench. */
const doneSign = (slim: boolean) =>
  ({
    position: 'absolute',
    bottom: slim ? -4 : 2,
    right: slim ? -4 : 4,
    display: 'flex',
    borderRadius: '50%',
    color: colours.verdigris,
    background: colours.paper,
  }) as const;

interface PanelProps {
  evaluation: Evaluation;
  result: StepResult;
  number: number;
  selected: boolean;
  slim: boolean;
  picture: Room;
  /** How long it may come, where that is known. */
  lengthBand: Band | undefined;
}

function Panel({ evaluation, result, number, selected, slim, picture, lengthBand }: PanelProps) {
  const { plan, shop } = evaluation;
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (selected) button.current?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [selected]);
  const { title } = moveOf(result.step.kind);
  const judged = useLater();
  const findings = judged ? findingsOf(evaluation, result) : result.findings;
  const errors = findings.filter((f) => f.severity === 'error').length;
  const warnings = findings.filter((f) => f.severity === 'warning').length;
  const aside = result.aside.length;
  const done = isDone(result.records);
  return (
    <Box
      component="button"
      ref={button}
      data-step={result.step.id}
      aria-current={selected ? 'step' : undefined}
      aria-label={`${number}. ${title}, ${sizeText(result, shop.lengths)}${aside > 0 ? `, ${aside} aside` : ''}${done ? ', done' : ''}${errors ? ', has an error' : warnings ? ', has a warning' : ''}`}
      onClick={() => select(result.step.id)}
      sx={{
        background: 'none',
        border: 0,
        p: 0,
        m: 0,
        font: 'inherit',
        color: 'inherit',
        cursor: 'pointer',
        ...(slim
          ? { display: 'flex', alignItems: 'center', gap: 0.75, textAlign: 'left' }
          : {
              // As wide as its size in inches is long.
              minWidth: picture.width + 16,
              display: 'grid',
              justifyItems: 'center',
              alignContent: 'start',
              textAlign: 'center',
            }),
        flex: 'none',
        scrollMarginInline: '10px',
      }}
    >
      <Box
        sx={{
          ...frame(selected, slim),
          p: slim ? '7px 3px 3px' : '20px 7px 8px',
          width: slim ? undefined : picture.width + 16,
          flex: 'none',
          position: 'relative',
        }}
      >
        <SmallFace plan={plan} result={result} urgency={slim ? 30 : 20} label="" {...picture} />
        {aside > 0 && (
          <Typography variant="panelSize" component="span" aria-hidden sx={asideSign(slim)}>
            +{aside}
            {slim ? '' : ' aside'}
          </Typography>
        )}
        {(errors > 0 || warnings > 0) && (
          <Box
            sx={{
              position: 'absolute',
              top: slim ? -2 : 8,
              right: slim ? -4 : 6,
              color: errors ? colours.alarm : colours.amber,
              background: colours.paper,
              borderRadius: '50%',
              display: 'flex',
            }}
          >
            {errors ? <ErrorIcon fontSize="small" /> : <WarningAmberIcon fontSize="small" />}
          </Box>
        )}
        {lengthBand && !done && !slim && result.after?.[0] && (
          <LengthWhisker band={lengthBand} plannedMm={result.after[0].lengthMm} />
        )}
        {done && (
          <Box sx={doneSign(slim)}>
            <CheckCircleIcon fontSize="small" />
          </Box>
        )}
      </Box>
      <Box sx={{ minWidth: 0, mt: slim ? 0 : 1 }}>
        <Typography variant="panel" noWrap>
          {number}. {moveOf(result.step.kind).short ?? title}
        </Typography>
        <Typography variant="panelSize" noWrap>
          {sizeText(result, shop.lengths)}
        </Typography>
      </Box>
    </Box>
  );
}

/** Share of the planned length to either side of it that a whisker has room for. */
const REACH = 0.3;

/** Under a picture: how long the bar comes eight times in ten, against the planned length in the middle. The same stands in words beside the move. */
function LengthWhisker({ band, plannedMm }: { band: Band; plannedMm: number }) {
  const at = (mm: number) => 50 + (50 / REACH) * Math.max(-REACH, Math.min(REACH, mm / plannedMm - 1));
  const [from, to] = [at(band.low), at(band.high)];
  if (to - from < 1) return null;
  return (
    <Box aria-hidden sx={{ position: 'absolute', left: 8, right: 8, bottom: 2, height: 5 }}>
      <Box
        sx={{
          position: 'absolute',
          top: 1,
          height: 3,
          left: `${from}%`,
          width: `${to - from}%`,
          background: colours.gilding,
          borderRadius: 1,
        }}
      />
      <Box
        sx={{ position: 'absolute', left: 'calc(50% - 1px)', width: 2, height: 5, background: colours.ink }}
      />
    </Box>
  );
}

function sizeText({ after }: StepResult, lengths: LengthDisplay): string {
  return after?.[0] ? sectionsInShort(after, lengths) : 'not reached';
}
