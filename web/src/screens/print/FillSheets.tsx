import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Box, Typography } from '@mui/material';
import { boxOf } from '../../../../core/geometry/regions.ts';
import { type FillSheet, fillSheets } from '../../../../core/print/fillSheet.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { svgPathOf } from '../../ui/regionPath.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

/** A sheet for each can, to hang by the scale: which powder where, in what order, how much. */
export function FillSheets() {
  const evaluation = useEvaluation();
  const sheets = fillSheets(evaluation);
  if (sheets.length === 0) return <p>No bar of this piece begins with a can.</p>;
  return (
    <>
      {sheets.map((sheet) => (
        <Box key={sheet.stepId} component="article" sx={{ breakAfter: 'page' }}>
          <Typography component="h2" sx={{ fontFamily: fonts.title, fontSize: '18pt' }}>
            {evaluation.plan.name}: filling {sheet.lane}
          </Typography>
          <p>{sheet.box}</p>
          <Box sx={{ display: 'flex', gap: '8mm', flexWrap: 'wrap', alignItems: 'flex-start' }}>
            <TrueSize sheet={sheet} />
            <Box sx={{ flex: '1 1 80mm' }}>
              <FiguresTable heads={['(Mark)', 'Powder', 'Where', 'Make ready', 'Goes in', 'Each lift']} lined>
                {sheet.powders.map((powder, i) => (
                  <tr key={powder.id}>
                    <td>
                      <b>{markOf(i)}</b>
                    </td>
                    <td>{powder.name}</td>
                    <td>{powder.where}</td>
                    <td>{powder.ready}</td>
                    <td>
                      <b>{powder.goesIn}</b>
                    </td>
                    <td>{powder.eachLift}</td>
                  </tr>
                ))}
              </FiguresTable>
            </Box>
          </Box>
          <p>
            {sheet.lifts}. Full: <b>{sheet.fullWeight}</b>, on the scale:{' '}
            <span
              style={{ display: 'inline-block', width: '28mm', borderBottom: `1px solid ${colours.ink}` }}
            />
          </p>
          <ol>
            {[...sheet.order, ...sheet.press].map((line, i) => (
              <li key={i}>{line}</li>
            ))}
          </ol>
          {sheet.cautions.map((text) => (
            <p key={text} style={{ color: colours.faded }}>
              Take care: {text}
            </p>
          ))}
        </Box>
      ))}
    </>
  );
}

const markOf = (i: number): string => String.fromCharCode(65 + i);

/** The can's section in true size, each powder with its letter. */
function TrueSize({ sheet }: { sheet: FillSheet }) {
  const box = boxOf([sheet.outline])!;
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const place = (x: number, y: number) => [x - box.minX, box.maxY - y] as const;
  return (
    <svg
      width={`${w}mm`}
      height={`${h}mm`}
      viewBox={`0 0 ${w} ${h}`}
      role="img"
      aria-label="The can’s section in true size"
      style={{ flex: 'none' }}
    >
      <path d={svgPathOf([sheet.outline], place)} fill="#fff" stroke={colours.ink} strokeWidth={0.4} />
      {sheet.fillings.map(({ powder, region }, i) => {
        const mark = sheet.powders.findIndex((p) => p.id === powder);
        const largest = boxOf([...region])!;
        const [x, y] = place((largest.minX + largest.maxX) / 2, (largest.minY + largest.maxY) / 2);
        return (
          <g key={i}>
            <path
              d={svgPathOf(region, place)}
              fill={FILLS[mark % FILLS.length]}
              fillRule="evenodd"
              stroke={colours.ink}
              strokeWidth={0.25}
            />
            <text x={x} y={y} fontSize={4} textAnchor="middle" fontFamily={fonts.numbers}>
              {markOf(mark)}
            </text>
          </g>
        );
      })}
      <text x={2} y={5.5} fontSize={4} fontFamily={fonts.numbers}>
        {markOf(
          Math.max(
            0,
            sheet.powders.findIndex((p) => p.where !== 'inside its outlines'),
          ),
        )}
      </text>
    </svg>
  );
}

const FILLS = ['#ffffff', '#d9d4c7', '#b9c9c2', '#d8bcb6'];
