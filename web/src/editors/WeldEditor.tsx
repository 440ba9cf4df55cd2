import AlignVerticalCenterIcon from '@mui/icons-material/AlignVerticalCenter';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, Checkbox, FormControlLabel, IconButton, Typography } from '@mui/material';
import type { Billet } from '../../../core/billet/billet.ts';
import { piecesOf } from '../../../core/billet/laidPieces.ts';
import { BEAD_MM, type WeldParameters, airOf, heldOf, weld } from '../../../core/moves/forge/weld.ts';
import { type SeamsAsked, seamsAsked, usualSeams, whyNoSeams } from '../../../core/moves/forge/seams.ts';
import { mostIn, quantitiesOf } from '../../../core/units/index.ts';
import { useShop } from '../document/useEvaluation.ts';
import { Another } from '../ui/Another.tsx';
import { Choice } from '../ui/fields/Choice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { Group, Pair } from '../ui/Group.tsx';
import { SchemaForm } from './form/form.tsx';
import type { EditorProps } from './form/editor.ts';
import { SoonestShut } from './SoonestShut.tsx';

const of = quantitiesOf(seamsAsked);
const MOST_PRESSES = mostIn(seamsAsked, 'presses');
/** What a piece is first said to be larger by, mm. */
const LARGER_MM = 0.5;

/** Heats and heat; and what is asked about the seams of the pieces that lie together. */
export function WeldEditor({ parameters: p, change, before, problem }: EditorProps<WeldParameters>) {
  const [bar] = before;
  return (
    <>
      <SchemaForm
        schema={weld.parameters}
        values={{
          beadMm: BEAD_MM,
          tackMm: 0,
          ...p,
          ...(bar && { held: heldOf(bar, p), air: airOf(bar, p) }),
        }}
        change={change}
        problem={problem}
        when={{
          edges: (q) => bar?.loose === true || q.edges === 'welded shut',
          beadMm: (q) => q.edges === 'welded shut',
          held: () => bar?.loose === true,
          air: () => bar?.loose === true,
          tackMm: (q) => bar?.loose === true && q.held !== 'wire',
          tacked: (q) => bar?.loose === true && q.held !== 'wire' && q.held !== 'glue',
        }}
      />
      {bar?.loose && (
        <Seams bar={bar} asked={p.seams} change={(seams) => change({ seams } as Partial<WeldParameters>)} />
      )}
    </>
  );
}

interface SeamsProps {
  bar: Billet;
  asked: SeamsAsked | undefined;
  change(asked: SeamsAsked | undefined): void;
}

function Seams({ bar, asked, change }: SeamsProps) {
  const shop = useShop();
  const why = whyNoSeams(bar);
  if (!asked)
    return (
      <Box>
        <Button
          startIcon={<AlignVerticalCenterIcon />}
          variant="outlined"
          disabled={why !== null}
          onClick={() => change(usualSeams(bar, shop))}
        >
          Will the seams shut?
        </Button>
        {why && (
          <Typography variant="body2" color="text.secondary">
            {why}
          </Typography>
        )}
      </Box>
    );
  const put = (some: Partial<SeamsAsked>) => change({ ...asked, ...some });
  const pieces = piecesOf(bar)?.each ?? [];
  const own = pieces.flatMap((piece, i) =>
    piece.bought ? [] : [[String(i + 1), `piece ${piece.name}`] as const],
  );
  const { larger } = asked;
  return (
    <Group
      title="Will the seams shut?"
      out={{ label: 'Ask nothing about the seams', act: () => change(undefined) }}
    >
      {why && <Typography variant="body2">{why}</Typography>}
      {own.length > 0 ? (
        <Pair>
          <QuantityField of={of('gapMm')} value={asked.gapMm} onChange={(gapMm) => put({ gapMm })} />
          <QuantityField
            of={of('cornerMm')}
            value={asked.cornerMm}
            onChange={(cornerMm) => put({ cornerMm })}
          />
        </Pair>
      ) : (
        <Typography variant="body2">Strips and sheets lie as they came, flat and sharp.</Typography>
      )}
      {own.length > 1 && (
        <FormControlLabel
          control={
            <Checkbox
              checked={larger !== undefined}
              onChange={(_, on) =>
                put({ larger: on ? { piece: Number(own[0][0]), byMm: LARGER_MM } : undefined })
              }
            />
          }
          label="One piece is larger"
        />
      )}
      {larger && (
        <Pair>
          <Choice
            label="Which"
            value={String(larger.piece)}
            options={own}
            onChange={(piece) => put({ larger: { ...larger, piece: Number(piece) } })}
          />
          <QuantityField
            of={of('larger.byMm')}
            value={larger.byMm}
            onChange={(byMm) => put({ larger: { ...larger, byMm } })}
          />
        </Pair>
      )}
      {asked.presses.map((press, i) => {
        const other = (some: Partial<typeof press>) =>
          put({ presses: asked.presses.map((q, k) => (k === i ? { ...q, ...some } : q)) });
        return (
          <Box
            key={i}
            sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 0.5, alignItems: 'start' }}
          >
            <Choice
              label={`Press ${i + 1}`}
              value={press.turned ? 'turned' : 'as it lies'}
              options={[
                ['as it lies', 'as it lies'],
                ['turned', 'turned'],
              ]}
              onChange={(way) => other({ turned: way === 'turned' })}
            />
            <QuantityField
              of={of('presses.toMm')}
              label={`Press ${i + 1}, to`}
              value={press.toMm}
              onChange={(toMm) => other({ toMm })}
            />
            {asked.presses.length > 1 && (
              <IconButton
                aria-label={`Remove press ${i + 1}`}
                onClick={() => put({ presses: asked.presses.filter((_, k) => k !== i) })}
              >
                <CloseIcon fontSize="small" />
              </IconButton>
            )}
          </Box>
        );
      })}
      <Another
        has={asked.presses.length}
        most={MOST_PRESSES}
        act={() =>
          put({
            presses: [...asked.presses, { turned: true, toMm: asked.presses[asked.presses.length - 1].toMm }],
          })
        }
      >
        Another press
      </Another>
      {!why && <SoonestShut bar={bar} asked={asked} onTake={(presses) => put({ presses })} />}
      <Typography variant="body2" color="text.secondary">
        Only asked: the bar and its instructions stay as they are.
      </Typography>
    </Group>
  );
}
