import { Group, Pair } from '../../ui/Group.tsx';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { placingSchema } from '../../../../core/picture/picture.ts';
import ImageIcon from '@mui/icons-material/ImageOutlined';
import { Button, Checkbox, FormControlLabel, Stack } from '@mui/material';
import { useState } from 'react';
import { FACES } from '../../../../core/billet/face.ts';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import { fitted } from '../../../../core/picture/fitting.ts';
import type { Filling, Picture, Placing } from '../../../../core/picture/picture.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { MaterialChoice } from '../form/MaterialChoice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { OpenDrawing } from './OpenDrawing.tsx';

const of = quantitiesOf(placingSchema);

interface PictureFieldsProps {
  can: Can;
  change(some: Partial<Can>): void;
}

/** The picture in powders: opened from a file, which powder fills what, and where it stands. */
export function PictureFields({ can, change }: PictureFieldsProps) {
  const [opening, setOpening] = useState(false);
  const { picture } = can;
  const put = (some: Partial<Picture>) => picture && change({ picture: { ...picture, ...some } });
  return (
    <Group title={picture ? `Picture: ${picture.name || 'unnamed'}` : 'Picture in powders'}>
      {picture && (
        <>
          {picture.drawn.map(({ powder }, i) => (
            <MaterialChoice
              key={i}
              label={`Picture, powder ${i + 1}`}
              value={powder}
              onChange={(id) =>
                put({
                  drawn: withPowder(picture.drawn, i, id),
                  walked: picture.walked && withPowder(picture.walked, i, id),
                })
              }
            />
          ))}
          <Place can={can} picture={picture} put={put} />
        </>
      )}
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap' }}>
        <Button size="small" variant="outlined" startIcon={<ImageIcon />} onClick={() => setOpening(true)}>
          {picture ? 'Another picture' : 'Open a drawing or photograph'}
        </Button>
        {picture && (
          <Button size="small" onClick={() => change({ picture: undefined })}>
            Take it out
          </Button>
        )}
      </Stack>
      {opening && (
        <OpenDrawing
          room={roomOf(can)}
          ground={can.powder}
          onClose={() => setOpening(false)}
          take={(fresh) => {
            setOpening(false);
            change({ picture: picture ? { ...fresh, form: picture.form } : fresh });
          }}
        />
      )}
    </Group>
  );
}

const withPowder = (fillings: readonly Filling[], i: number, powder: string): Filling[] =>
  fillings.map((f, k) => (k === i ? { ...f, powder } : f));

/** Where it stands. On the finished face it is drawn as it will be seen; Form walks it back to the can. */
function Place({ can, picture, put }: { can: Can; picture: Picture; put(some: Partial<Picture>): void }) {
  const { place } = picture;
  const move = (some: Partial<Placing>) => put({ place: { ...place, ...some }, walked: null });
  const inCan = place.on === 'can';
  return (
    <>
      <Choice
        label="Drawn"
        value={place.on}
        options={[['can', 'in the can'], ...FACES.map((f) => [f, `on the finished bar: ${f}`] as const)]}
        onChange={(on) =>
          on === 'can'
            ? put({
                place: fitted({ drawn: picture.drawn, place: { ...place, on } }, roomOf(can)),
                walked: null,
              })
            : move({ on })
        }
      />
      <Pair>
        <QuantityField of={of('widthMm')} value={place.widthMm} onChange={(widthMm) => move({ widthMm })} />
        <QuantityField of={of('turnDeg')} value={place.turnDeg} onChange={(turnDeg) => move({ turnDeg })} />
        <QuantityField of={of('x')} value={place.x} onChange={(x) => move({ x })} />
        <QuantityField of={of('y')} value={place.y} onChange={(y) => move({ y })} />
        {inCan && (
          <>
            <QuantityField
              of={of('columns')}
              value={place.columns}
              onChange={(columns) => move({ columns })}
            />
            <QuantityField of={of('rows')} value={place.rows} onChange={(rows) => move({ rows })} />
          </>
        )}
      </Pair>
      <Stack direction="row" sx={{ alignItems: 'center', justifyContent: 'space-between' }}>
        <FormControlLabel
          control={<Checkbox checked={place.mirrored} onChange={(_, mirrored) => move({ mirrored })} />}
          label="Mirrored"
        />
        {inCan && (
          <Button size="small" onClick={() => put({ place: fitted(picture, roomOf(can)) })}>
            Fit the can
          </Button>
        )}
      </Stack>
    </>
  );
}
