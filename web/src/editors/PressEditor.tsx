import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, Checkbox, FormControlLabel, IconButton } from '@mui/material';
import { sizeOf } from '../../../core/billet/billet.ts';
import { SEQUENCES } from '../../../core/steps/press.ts';
import type { ParametersOf } from '../../../core/steps/index.ts';
import { Choice } from '../fields/Choice.tsx';
import { AngleField, CountField, LengthField, NumberField } from '../fields/numberFields.tsx';
import type { EditorProps } from './editor.ts';

type P = ParametersOf<'press'>;

/** Passes one by one, or a ready sequence of them. */
export function PressEditor({ parameters: p, change, before, problem }: EditorProps<P>) {
  const put = (i: number, some: Partial<P['passes'][number]>) =>
    change({ passes: p.passes.map((q, k) => (k === i ? { ...q, ...some } : q)) });
  const take = (name: string) => {
    const { widthMm, heightMm } = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const passes = SEQUENCES[name](widthMm, heightMm);
    change({ passes: passes.map((q) => ({ ...q, toMm: Math.round(q.toMm * 10) / 10 })) });
  };
  return (
    <>
      <Choice
        label="Take a ready sequence"
        value=""
        options={[['', 'as below'] as const, ...Object.keys(SEQUENCES).map((name) => [name, name] as const)]}
        onChange={(name) => name && take(name)}
      />
      {p.passes.map((pass, i) => (
        <Box
          key={i}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto', gap: 1, alignItems: 'start' }}
        >
          <AngleField
            label={`Pass ${i + 1}, turn`}
            least={-180}
            most={180}
            value={pass.turnDeg}
            onChange={(turnDeg) => put(i, { turnDeg })}
          />
          <LengthField
            label={`Pass ${i + 1}, to`}
            fine
            mostMm={500}
            value={pass.toMm}
            onChange={(toMm) => put(i, { toMm })}
            problem={i === 0 ? problem('passes') : undefined}
          />
          <IconButton
            aria-label={`Take pass ${i + 1} out`}
            disabled={p.passes.length === 1}
            onClick={() => change({ passes: p.passes.filter((_, k) => k !== i) })}
          >
            <CloseIcon />
          </IconButton>
        </Box>
      ))}
      <Button
        size="small"
        startIcon={<AddIcon />}
        disabled={p.passes.length >= 24}
        onClick={() =>
          change({ passes: [...p.passes, { turnDeg: 90, toMm: p.passes[p.passes.length - 1].toMm }] })
        }
      >
        Another pass
      </Button>
      <Choice
        label="Left"
        value={p.finish}
        options={[
          ['squared', 'squared up, corners filled'],
          ['as pressed', 'as the dies leave it'],
        ]}
        onChange={(finish) => change({ finish })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25 }}>
        <NumberField
          label="Friction"
          least={0}
          most={1}
          value={p.friction}
          onChange={(friction) => change({ friction })}
        />
        <CountField
          label="Heats"
          least={0}
          most={40}
          value={p.heats}
          onChange={(heats) => change({ heats })}
        />
      </Box>
      <FormControlLabel
        control={<Checkbox checked={p.held} onChange={(_, held) => change({ held })} />}
        label="Held, so that it does not roll"
      />
    </>
  );
}
