import { Box, Typography } from '@mui/material';
import { useEffect, useRef } from 'react';
import { type Region, boxOf } from '../../../../core/geometry/regions.ts';
import { type ThinPlace } from '../../../../core/picture/fitting.ts';
import type { Picture } from '../../../../core/picture/picture.ts';
import { type Plan } from '../../../../core/plan/index.ts';
import type { Painted } from '../../../../core/render/paint.ts';
import { formatFineSizes } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import type { CanReport, FormReport } from '../../document/workers/forms.ts';
import { askOf } from '../../document/workers/host.ts';
import { svgPathOf } from '../../ui/regionPath.ts';

/** Space round the picture that is shown of the face, of its size. */
const ROUND_ABOUT = 0.35;

/** The finished face about the picture: the steel as it comes out, over it what was wanted and what is predicted. */
export function OnFace({
  plan,
  stepId,
  picture,
  report,
  thin,
  mostPx,
}: {
  plan: Plan;
  stepId: string;
  picture: Picture;
  report: FormReport;
  thin: ThinPlace[];
  mostPx: number;
}) {
  const { shop } = useEvaluation();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [frame, { width }] = useSize();
  const box = boxOf(report.wanted.flatMap((f) => f.region as Region));
  const margin = box ? ROUND_ABOUT * Math.max(box.maxX - box.minX, box.maxY - box.minY) : 0;
  const left = box ? Math.max(0, box.minX - margin) : 0;
  const low = box ? Math.max(0, box.minY - margin) : 0;
  const right = box ? Math.min(report.faceWidthMm, box.maxX + margin) : report.faceWidthMm;
  const top = box ? Math.min(report.faceHeightMm, box.maxY + margin) : report.faceHeightMm;
  const [w, h] = [Math.max(0.1, right - left), Math.max(0.1, top - low)];
  const scale = width > 0 ? Math.min(width / w, mostPx / h) : 0;
  const [px, py] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
  const { on } = picture.place;
  useEffect(() => {
    if (scale === 0 || on === 'can') return;
    let stale = false;
    void askOf('forms', plan, (api, key) =>
      api.paintPart(key, stepId, on, { left, low, widthMm: w, heightMm: h }, px, py),
    ).then((painted: Painted | null) => {
      if (stale || !painted || !canvas.current) return;
      canvas.current.dataset.painted = 'sharp';
      canvas.current.width = painted.widthPx;
      canvas.current.height = painted.heightPx;
      canvas.current
        .getContext('2d')
        ?.putImageData(new ImageData(painted.rgba, painted.widthPx, painted.heightPx), 0, 0);
    });
    return () => void (stale = true);
  }, [plan, stepId, on, left, low, w, h, px, py, scale]);
  const place = (x: number, y: number) => [(x - left) * scale, (top - y) * scale] as const;
  return (
    <Box ref={frame} sx={{ minWidth: 0 }}>
      <Typography variant="h3">On the finished bar, {on}</Typography>
      <Box sx={{ position: 'relative', width: px, height: py }}>
        <canvas
          ref={canvas}
          style={{ width: px, height: py, display: 'block' }}
          role="img"
          aria-label="The finished face about the picture"
        />
        <svg width={px} height={py} style={{ position: 'absolute', inset: 0 }} aria-hidden>
          {report.wanted.map(({ region }, i) => (
            <path
              key={i}
              d={svgPathOf(region, place)}
              fill="none"
              stroke={colours.gilding}
              strokeWidth={2.5}
            />
          ))}
          {report.difference?.predicted.map(({ region }, i) => (
            <path
              key={i}
              d={svgPathOf(region, place)}
              fill="none"
              stroke={colours.alarm}
              strokeWidth={1.2}
              strokeDasharray="5 4"
            />
          ))}
          {thin.map(({ region }, i) => (
            <path key={i} d={svgPathOf(region, place)} fill={colours.alarm} fillOpacity={0.5} />
          ))}
          {report.walk && !report.walk.ok && (
            <circle
              cx={place(...report.walk.at)[0]}
              cy={place(...report.walk.at)[1]}
              r={10}
              fill="none"
              stroke={colours.alarm}
              strokeWidth={3}
            />
          )}
        </svg>
      </Box>
      <Typography variant="body2" color="text.secondary">
        {box && `${formatFineSizes([box.maxX - box.minX, box.maxY - box.minY], shop.lengths)}. `}
        Gilt: wanted{report.difference ? '; red, broken: what comes out' : ''}.
      </Typography>
    </Box>
  );
}

/** The can's section as it is filled, with the form's walls in it. */
export function InCan({ report, mostPx }: { report: CanReport; mostPx: number }) {
  const { shop } = useEvaluation();
  const [frame, { width }] = useSize();
  const box = boxOf([report.outline])!;
  const [w, h] = [box.maxX - box.minX, box.maxY - box.minY];
  const scale = width > 0 ? Math.min((width - 4) / w, mostPx / h) : 0;
  const place = (x: number, y: number) => [(x - box.minX) * scale, (box.maxY - y) * scale] as const;
  const tone = (powder: string) => {
    const grey = Math.round(90 + 150 * (shop.materials.find((m) => m.id === powder)?.tone ?? 0.5));
    return `rgb(${grey} ${grey} ${grey})`;
  };
  const drawn = boxOf(report.fillings.flatMap((f) => f.region as Region));
  return (
    <Box ref={frame} sx={{ minWidth: 0 }}>
      <Typography variant="h3">In the can: the form</Typography>
      <svg
        width={w * scale}
        height={h * scale}
        role="img"
        aria-label="The form in the can’s section"
        style={{ background: colours.gesso, border: `1px solid ${colours.faded}` }}
      >
        {report.fillings.map(({ powder, region }, i) => (
          <path key={i} d={svgPathOf(region, place)} fill={tone(powder)} fillRule="evenodd" />
        ))}
        <path d={svgPathOf(report.walls, place)} fill={colours.oxide} fillRule="evenodd" />
        {report.thinInCan.map(({ region }, i) => (
          <path key={i} d={svgPathOf(region, place)} fill={colours.alarm} fillOpacity={0.55} />
        ))}
      </svg>
      <Typography variant="body2" color="text.secondary">
        Room {formatFineSizes([w, h], shop.lengths)}
        {drawn &&
          `, picture ${formatFineSizes([drawn.maxX - drawn.minX, drawn.maxY - drawn.minY], shop.lengths)}`}
        . Red: the form’s wall{report.thinInCan.length > 0 ? '; bright red: too thin to fill' : ''}.
      </Typography>
    </Box>
  );
}
