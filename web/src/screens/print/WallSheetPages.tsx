import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Box, Typography } from '@mui/material';
import { shortFace, tellingFace } from '../../../../core/billet/face.ts';
import { type Evaluation, stepResult } from '../../../../core/plan/index.ts';
import { type WallSheet, type WallStep, wallSheet } from '../../../../core/print/wall.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useForecast, usePace } from '../../document/learning.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { DiagramDrawing } from './DiagramDrawing.tsx';
import { SteelView } from '../../benches/steel/SteelView.tsx';

/** mm. Largest picture, and CSS pixels to the mm (CSS: 96 to the inch). */
const MOST_MM = 40;
const MOST_ASPECT = 3;
const PX_PER_MM = 96 / 25.4;
/** Dots painted to a CSS pixel, for paper. */
const DENSITY = 2;

/** The whole plan as it hangs on the wall: the same words as in the PDF. */
export function WallSheetPages() {
  const evaluation = useEvaluation();
  const { forecast } = useForecast(evaluation);
  const sheet = wallSheet(evaluation, forecast, usePace());
  return (
    <Box
      component="table"
      sx={{ width: '100%', borderSpacing: 0, fontSize: '10.5pt', lineHeight: 1.35, '& p': { m: 0 } }}
    >
      <tbody>
        <tr>
          <Box component="td" sx={{ p: 0 }}>
            <Typography component="h1" sx={{ fontFamily: fonts.title, fontSize: '22pt', lineHeight: 1.2 }}>
              {sheet.title}
            </Typography>
            <p>
              <b>
                Finished bar {sheet.goal}. This plan gives {sheet.comes}.
              </b>
            </p>
            {sheet.sure && <p>{sheet.sure}</p>}
            {sheet.notes && <p style={{ whiteSpace: 'pre-wrap' }}>{sheet.notes}</p>}
            <p style={{ color: colours.faded }}>{sheet.general}</p>
            {sheet.cut.length > 0 && (
              <>
                <Typography component="h2" sx={{ fontFamily: fonts.title, fontSize: '14pt', mt: 2 }}>
                  To cut
                </Typography>
                <FiguresTable heads={['Steel', 'Section', 'Length', 'Pieces', 'For']}>
                  {sheet.cut.map((row) => (
                    <tr key={row.join()}>
                      {row.map((cell, i) => (
                        <td key={i}>{cell}</td>
                      ))}
                    </tr>
                  ))}
                </FiguresTable>
                <p>From new stock: {sheet.buy.join('; ')}.</p>
              </>
            )}
            {sheet.costs.length > 0 && (
              <>
                <Typography component="h2" sx={{ fontFamily: fonts.title, fontSize: '14pt', mt: 2 }}>
                  What it takes
                </Typography>
                <FiguresTable heads={['(What)', 'Amount', 'Price']}>
                  {sheet.costs.map((row) => (
                    <tr key={row[0]}>
                      {row.map((cell, i) => (
                        <td key={i}>{cell}</td>
                      ))}
                    </tr>
                  ))}
                </FiguresTable>
              </>
            )}
            {sheet.lanes.map((lane) => (
              <Box key={lane.mark + lane.name} component="section">
                <Typography
                  component="h2"
                  sx={{ fontFamily: fonts.title, fontSize: '16pt', mt: 2.5, breakAfter: 'avoid' }}
                >
                  {sheet.lanes.length > 1 ? `${lane.mark}: ${lane.name}` : lane.name}
                </Typography>
                {lane.steps.map((step) => (
                  <OneStep key={step.stepId} step={step} evaluation={evaluation} />
                ))}
              </Box>
            ))}
          </Box>
        </tr>
      </tbody>
      {/* A table's foot is printed again on every page. */}
      <tfoot>
        <tr>
          <Box component="td" sx={{ p: 0, pt: '3mm' }}>
            <Cautions cautions={sheet.cautions} />
          </Box>
        </tr>
      </tfoot>
    </Box>
  );
}

/** Each caution of the plan in full, by its letter. */
function Cautions({ cautions }: { cautions: WallSheet['cautions'] }) {
  if (cautions.length === 0) return null;
  return (
    <Box component="section" aria-label="Take care" sx={{ fontSize: '7.5pt', lineHeight: 1.25 }}>
      <b>Take care</b>
      {cautions.map(({ letter, text }) => (
        <p key={letter} style={{ color: colours.faded }}>
          <b>{letter}</b> {text}
        </p>
      ))}
    </Box>
  );
}

function OneStep({ step, evaluation }: { step: WallStep; evaluation: Evaluation }) {
  return (
    <Box
      component="article"
      sx={{ breakInside: 'avoid', borderTop: `1px solid ${colours.line}`, py: 1, mt: 1 }}
    >
      <Typography component="h3" sx={{ fontFamily: fonts.title, fontSize: '13pt' }}>
        {step.number}. {step.title}
      </Typography>
      <Box
        sx={{ display: 'flex', gap: '5mm', alignItems: 'flex-start', flexWrap: { xs: 'wrap', sm: 'nowrap' } }}
      >
        <TruePicture stepId={step.stepId} evaluation={evaluation} />
        <Box sx={{ flex: 1, minWidth: 0, display: 'grid', gap: 0.5 }}>
          <b>{step.sizes}</b>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
            {step.say.map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </Box>
          {step.diagrams.length > 0 && (
            <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4mm', my: 0.5 }}>
              {step.diagrams.map((diagram) => (
                <DiagramDrawing key={diagram.what} diagram={diagram} />
              ))}
            </Box>
          )}
          {step.figures.length > 0 && (
            <p style={{ color: colours.faded }}>
              {step.figures.map(([what, value]) => `${what} ${value}`).join(' · ')}
            </p>
          )}
          {step.may && <p style={{ color: colours.faded }}>{step.may}</p>}
          {step.came.map((text, i) => (
            <p key={i}>Came: {text}</p>
          ))}
          {step.heed.map((text) => (
            <p key={text} style={{ color: colours.amber, fontWeight: 700 }}>
              Look again: {text}
            </p>
          ))}
          {step.cautions.length > 0 && (
            <p style={{ fontSize: '9pt', color: colours.faded, fontWeight: 700 }}>
              Take care: {[...step.cautions].sort().join(', ')} below.
            </p>
          )}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: '2mm', mt: 1 }} aria-hidden>
        {step.boxes.map((name) => (
          <Box
            key={name}
            sx={{
              flex: 1,
              height: '9mm',
              border: `1px solid ${colours.faded}`,
              fontSize: '7.5pt',
              px: '1mm',
              color: colours.faded,
            }}
          >
            {name}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** The telling face after a move, in true size where it fits. */
function TruePicture({ stepId, evaluation }: { stepId: string; evaluation: Evaluation }) {
  const bar = stepResult(evaluation, stepId)?.after?.[0];
  if (!bar) return null;
  const face = tellingFace(bar);
  const plane = shortFace(bar, face, MOST_ASPECT);
  const scale = Math.min(1, MOST_MM / plane.widthMm, MOST_MM / plane.heightMm);
  const note = scale === 1 ? `${face}, true size` : `${face}, at ${Math.round(100 * scale)} %`;
  return (
    <Box component="figure" sx={{ m: 0, flex: 'none', minWidth: '30mm' }}>
      <SteelView
        plan={evaluation.plan}
        stepId={stepId}
        when="after"
        face={face}
        view="etched"
        mostAspect={MOST_ASPECT}
        width={plane.widthMm * scale * PX_PER_MM}
        height={plane.heightMm * scale * PX_PER_MM}
        density={DENSITY}
        urgency={5}
        label={note}
      />
      <figcaption style={{ fontSize: '8pt', color: colours.faded }}>{note}</figcaption>
    </Box>
  );
}
