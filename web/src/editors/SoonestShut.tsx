import SpeedIcon from '@mui/icons-material/Speed';
import { Button, LinearProgress, Typography } from '@mui/material';
import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Billet } from '../../../core/billet/billet.ts';
import type { SeamWay } from '../../../core/loose/ways.ts';
import { type SeamsAsked, seamQuestion } from '../../../core/moves/forge/seams.ts';
import { formatFine, formatFineArea, stopDivisionMm } from '../../../core/units/index.ts';
import { useShop } from '../document/useEvaluation.ts';
import { askApart } from '../document/workers/host.ts';
import { FiguresTable } from '../ui/FiguresTable.tsx';
import { Popup } from '../ui/Popup.tsx';

interface SoonestShutProps {
  bar: Billet;
  asked: SeamsAsked;
  onTake(presses: SeamsAsked['presses']): void;
}

/** “Which presses shut them soonest?”: light presses all round are tried against heavier ones. */
export function SoonestShut(props: SoonestShutProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        size="small"
        startIcon={<SpeedIcon />}
        sx={{ justifySelf: 'start' }}
        onClick={() => setOpen(true)}
      >
        Which presses shut them soonest?
      </Button>
      {open && <Ways {...props} onClose={() => setOpen(false)} />}
    </>
  );
}

function Ways({ bar, asked, onTake, onClose }: SoonestShutProps & { onClose(): void }) {
  const shop = useShop();
  const [share, setShare] = useState<number | null>(0);
  const [ways, setWays] = useState<readonly SeamWay[]>([]);
  const [failed, setFailed] = useState<string | null>(null);
  const end = useRef<() => void>(undefined);
  const mm = (value: number) => formatFine(value, shop.lengths);
  // Asked once, as it stands when this opens.
  const [[question, stops]] = useState(
    () => [seamQuestion(bar, asked, shop), stopDivisionMm(shop.lengths)] as const,
  );
  useEffect(() => {
    let gone = false;
    const mine = askApart('ways', (api) =>
      api.waysToShut(
        question,
        stops,
        Comlink.proxy((how, found) => {
          if (gone) return;
          setShare(how);
          setWays(found);
        }),
      ),
    );
    end.current = () => {
      gone = true;
      mine.end();
      setShare(null);
    };
    mine.answer.then(
      (found) => {
        if (gone) return;
        setWays(found);
        setShare(null);
      },
      (error: Error) => {
        if (gone) return;
        setFailed(error.message);
        setShare(null);
      },
    );
    return () => {
      gone = true;
      mine.end();
    };
  }, [question, stops]);
  return (
    <Popup
      title="Which presses shut them soonest?"
      onClose={onClose}
      width="sm"
      actions={
        <>
          {share !== null && <Button onClick={() => end.current?.()}>Stop</Button>}
          <Button onClick={onClose}>Close</Button>
        </>
      }
    >
      <Typography variant="body2" color="text.secondary">
        Pressed all round with a quarter turn before every press but the first, light presses against heavier
        ones, until every seam is shut.
      </Typography>
      {share !== null && <LinearProgress variant="determinate" aria-label="Tried" value={100 * share} />}
      {failed && <Typography color="error">It broke off: {failed}.</Typography>}
      {ways.length > 0 && (
        <FiguresTable
          heads={['Each press takes', 'Presses', 'All shut after', 'Voids left', '(Take it)']}
          tight
        >
          {ways.map((way) => (
            <tr key={way.takesMm}>
              <td>{mm(way.takesMm)}</td>
              <td>{way.presses.length}</td>
              <td>
                {way.stopped
                  ? 'could not be pressed so'
                  : way.allShutAtMm === null
                    ? `not shut: open by ${mm(way.openMm)}`
                    : `${mm(way.allShutAtMm)} of travel`}
              </td>
              <td>{way.voidMm2 > 0 ? formatFineArea(way.voidMm2, shop.lengths) : 'none'}</td>
              <td>
                <Button
                  size="small"
                  onClick={() => {
                    onTake([...way.presses]);
                    onClose();
                  }}
                >
                  Take it
                </Button>
              </td>
            </tr>
          ))}
        </FiguresTable>
      )}
    </Popup>
  );
}
