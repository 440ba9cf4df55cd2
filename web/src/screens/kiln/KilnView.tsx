import AddIcon from '@mui/icons-material/Add';
import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import { kilnProblems } from '../../../../core/kiln/program.ts';
import type { KilnProgram } from '../../../../core/kiln/program.ts';
import { type HeldProgram, kilnPrograms } from '../../../../core/plan/index.ts';
import { CAUTIONS } from '../../../../core/moves/contract/common.ts';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { colours } from '../../ui/theme.ts';
import { FindingCard } from '../../ui/FindingCard.tsx';
import { changeParameters, editPlan } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { NewProgram } from './NewProgram.tsx';
import { ProgramEditor } from './ProgramEditor.tsx';
import { ProgramPlot } from '../../benches/kiln/ProgramPlot.tsx';
import { problemText } from './problemText.ts';
import { useKilnRun } from '../../benches/kiln/useKilnRun.ts';

const setPrograms = (change: (programs: readonly KilnProgram[]) => KilnProgram[], what: string): void =>
  editPlan((plan) => ({ ...plan, kiln: change(plan.kiln ?? []) }), `kiln ${what}`);

/** Programs for annealing, normalising, hardening and tempering: planned, checked against the shop's kiln, run on a simulated one. */
export default function KilnView() {
  const programs = kilnPrograms(useEvaluation());
  const [chosen, setChosen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const program = programs.find((p) => p.id === chosen) ?? programs[0];
  const add = (made: KilnProgram) => {
    setPrograms((all) => [...all, made], `add ${made.id}`);
    setChosen(made.id);
    setAdding(false);
  };
  if (!program || adding)
    return (
      <Box component="main" sx={{ px: 2.5, py: 2, overflowY: { md: 'auto' } }}>
        <NewProgram add={add} back={programs.length > 0 ? () => setAdding(false) : undefined} />
      </Box>
    );
  return (
    <OneProgram
      key={program.id}
      program={program}
      programs={programs}
      choose={setChosen}
      begin={() => setAdding(true)}
    />
  );
}

interface OneProgramProps {
  program: HeldProgram;
  programs: readonly HeldProgram[];
  choose(id: string): void;
  begin(): void;
}

function OneProgram({ program, programs, choose, begin }: OneProgramProps) {
  const { shop } = useEvaluation();
  const run = useKilnRun(program, shop.kiln);
  const change = (some: Partial<KilnProgram>) => {
    const what = Object.keys(some).join();
    if (program.step) changeParameters(program.step, some, what);
    else
      setPrograms(
        (all) => all.map((p) => (p.id === program.id ? { ...p, ...some } : p)),
        `${program.id} ${what}`,
      );
  };
  const quenches = program.segments.some((s) => /quench/i.test(s.then ?? ''));
  return (
    <SteelAndNumbers
      leastSteelPx={560}
      steel={
        <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', gap: 1, minHeight: 0 }}>
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
            <ToggleButtonGroup
              size="small"
              exclusive
              value={program.id}
              onChange={(_, id: string | null) => id && choose(id)}
              aria-label="Program"
              sx={{ flexWrap: 'wrap' }}
            >
              {programs.map((p) => (
                <ToggleButton
                  key={p.id}
                  value={p.id}
                  sx={{ textTransform: 'none', py: 0.25, color: colours.ink }}
                >
                  {p.name}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
            <Button size="small" startIcon={<AddIcon />} onClick={begin}>
              Another program
            </Button>
          </Box>
          <ProgramPlot program={program} run={run} />
        </Box>
      }
      numbers={
        <Box component="section" aria-label={program.name} sx={{ display: 'grid', gap: 1.5 }}>
          <ProgramEditor
            program={program}
            change={change}
            ofMove={program.step !== undefined}
            remove={() =>
              setPrograms((all) => all.filter((p) => p.id !== program.id), `remove ${program.id}`)
            }
          />
          {kilnProblems(program, shop.kiln).map((problem) => (
            <FindingCard
              key={problem.segment + problem.code}
              finding={problemText(problem, program, shop)}
              onRemedy={() =>
                change({
                  segments: program.segments.map((s, i) =>
                    i === problem.segment ? { ...s, ...problem.set } : s,
                  ),
                })
              }
            />
          ))}
          {quenches && <FindingCard finding={CAUTIONS.quench()} />}
          <Typography variant="body2" color="text.secondary">
            A starting point only: the data sheet of whoever made the steel takes precedence, and so do the
            makers of the kiln and the quenchant, local codes and licensed practice.
          </Typography>
        </Box>
      }
    />
  );
}
