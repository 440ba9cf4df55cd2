import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Box, Typography } from '@mui/material';
import { clockTime, legsOf } from '../../../../core/kiln/program.ts';
import { materialById } from '../../../../core/materials/material.ts';
import { CAUTIONS } from '../../../../core/moves/contract/common.ts';
import { kilnPrograms } from '../../../../core/plan/index.ts';
import { formatRate, formatTemperature } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

/** A card for each kiln program, to stand by the kiln: what, when, and room for what came. */
export function KilnCards() {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const programs = kilnPrograms(evaluation);
  if (programs.length === 0) return <p>This piece has no kiln programs yet: make one on the Kiln screen.</p>;
  return (
    <>
      {programs.map((program) => {
        const steel = materialById(shop.materials, program.material)?.name ?? program.material;
        const quenches = program.segments.some((s) => /quench/i.test(s.then ?? ''));
        return (
          <Box
            key={program.id}
            component="article"
            sx={{ breakInside: 'avoid', border: `1px solid ${colours.ink}`, p: '5mm', mb: '6mm' }}
          >
            <Typography component="h2" sx={{ fontFamily: fonts.title, fontSize: '16pt' }}>
              {program.name}
            </Typography>
            <p>
              {plan.name} · {steel} · starts {clockTime(program.startMin, 0)}
            </p>
            <FiguresTable
              heads={['(Leg)', 'How fast', 'To', 'There at', 'Hold', 'Until', 'Then', 'What came']}
              lined
            >
              {legsOf(program, shop.kiln).map(({ segment: s, thereS, endS }, i) => (
                <tr key={i}>
                  <td>{i + 1}</td>
                  <td>{s.rateKPerH === null ? 'full' : formatRate(s.rateKPerH, shop.temperatures)}</td>
                  <td>
                    <b>{formatTemperature(s.targetC, shop.temperatures)}</b>
                  </td>
                  <td>{clockTime(program.startMin, thereS)}</td>
                  <td>{s.holdMin} min</td>
                  <td>{clockTime(program.startMin, endS)}</td>
                  <td>{s.then}</td>
                  <td style={{ border: `1px solid ${colours.faded}`, minWidth: '22mm' }} />
                </tr>
              ))}
            </FiguresTable>
            <p>
              The data sheet of whoever made the steel takes precedence. Local codes and licensed practice
              come first.
            </p>
            {quenches && <p style={{ color: colours.faded }}>Take care: {CAUTIONS.quench().text}</p>}
          </Box>
        );
      })}
    </>
  );
}
