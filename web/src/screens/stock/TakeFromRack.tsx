import { useServerChange } from '../../document/useServerChange.ts';
import { Alert, Box, Button, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { materialById } from '../../../../core/materials/material.ts';
import type { Evaluation } from '../../../../core/plan/index.ts';
import { cutFromSections, cutList } from '../../../../core/plan/index.ts';
import { formatStockSizes, formatLength } from '../../../../core/units/index.ts';
import { api } from '../../document/api.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { Section } from '../../ui/Section.tsx';
import { useRack, useTaken } from '../../document/shopApi.ts';

/** What the rack gives for this piece; taken by a press, or when the piece is marked done, and put back as easily. */
export function TakeFromRack({ evaluation }: { evaluation: Evaluation }) {
  const { shop } = evaluation;
  const { id = '' } = useParams();
  const saved = usePlanStore((state) => state.save.kind === 'saved');
  const { data: rack, error } = useRack();
  const { data: taken } = useTaken(id);
  const act = useServerChange(['rack'], ['taken', id]);
  const bar = (b: { material: string; widthMm: number; thicknessMm: number; lengthMm: number }) =>
    `${materialById(shop.materials, b.material)?.name ?? b.material} ${formatStockSizes([b.widthMm, b.thicknessMm], shop.lengths)}, ${formatLength(b.lengthMm, shop.lengths)}`;
  const uses = cutFromSections(cutList(evaluation), rack ?? [], shop).flatMap((s) => s.take);
  const wrong = error ?? act.error;
  return (
    <Section title="From the rack">
      {wrong && <Alert severity="error">{wrong.message}</Alert>}
      {taken ? (
        <>
          <Typography>
            {taken.length === 0 ? 'The rack had nothing for this piece.' : 'Taken for this piece:'}
          </Typography>
          <List
            items={taken.map(
              (t) => `${bar(t)}${t.restMm > 0 ? `; ${formatLength(t.restMm, shop.lengths)} went back` : ''}`,
            )}
          />
          <Button
            variant="outlined"
            disabled={act.isPending}
            onClick={() => act.mutate(() => api.putBack(id))}
          >
            Put it back
          </Button>
        </>
      ) : (
        <>
          <Typography>
            {uses.length === 0
              ? 'Nothing on the rack fits this cut list.'
              : `${uses.length} ${uses.length === 1 ? 'bar' : 'bars'} on the rack would be used:`}
          </Typography>
          <List items={uses.flatMap((u) => rack?.filter((b) => b.id === u.id).map(bar) ?? [])} />
          {uses.length > 0 && (
            <Button
              variant="outlined"
              disabled={act.isPending || !saved}
              onClick={() => act.mutate(() => api.takeFromRack(id))}
            >
              Take them off the rack now
            </Button>
          )}
          <Typography variant="body2" color="text.secondary">
            Marking the piece as done takes them too. Offcuts from {formatLength(shop.keepMm, shop.lengths)}{' '}
            go back.
          </Typography>
        </>
      )}
      <Button component={Link} to="/shop/rack" size="small">
        What lies on the rack
      </Button>
    </Section>
  );
}

const List = ({ items }: { items: readonly string[] }) => (
  <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
    {items.map((text, i) => (
      <li key={i}>{text}</li>
    ))}
  </Box>
);
