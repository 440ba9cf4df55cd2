import { Box, Button, GlobalStyles, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { colours } from '../../ui/theme.ts';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { usePlanStore } from '../../document/planStore.ts';
import { FillSheets } from './FillSheets.tsx';
import { KilnCards } from './KilnCards.tsx';
import { WallSheetPages } from './WallSheetPages.tsx';

const PAPERS = {
  A4: { size: 'A4', wideMm: 210, text: 'A4' },
  LETTER: { size: 'letter', wideMm: 215.9, text: 'Letter' },
} as const;
const MARGIN_MM = 12.7;

/** What hangs on the wall: the plan or its kiln cards, as the browser prints them, or as a PDF from the server. */
export default function PrintView() {
  const { id } = useParams();
  const [search, setSearch] = useSearchParams();
  const asked = search.get('what');
  const what = asked === 'kiln' || asked === 'fill' ? asked : 'wall';
  const [paper, setPaper] = useState<keyof typeof PAPERS>('A4');
  const saved = usePlanStore((state) => state.save.kind === 'saved');
  const { size, wideMm } = PAPERS[paper];
  return (
    <Box
      component="main"
      sx={{ flex: 1, minHeight: 0, overflowY: { md: 'auto' }, '@media print': { overflow: 'visible' } }}
    >
      <GlobalStyles
        styles={`@page { size: ${size}; margin: ${MARGIN_MM}mm } @media print { #root > div { display: block !important; height: auto !important } }`}
      />
      <Stack
        data-noprint
        direction="row"
        useFlexGap
        spacing={1.5}
        sx={{ px: 2.5, py: 1, flexWrap: 'wrap', alignItems: 'center' }}
      >
        <Toggles
          label="What to print"
          value={what}
          options={[
            ['wall', 'The plan'],
            ['fill', 'Filling sheets'],
            ['kiln', 'Kiln cards'],
          ]}
          onChange={(chosen) => setSearch(chosen === 'wall' ? {} : { what: chosen })}
        />
        <Toggles
          label="Paper"
          value={paper}
          options={[
            ['A4', PAPERS.A4.text],
            ['LETTER', PAPERS.LETTER.text],
          ]}
          onChange={(p) => setPaper(p)}
        />
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
        {what === 'wall' && (
          <Button
            variant="outlined"
            component="a"
            href={`/api/projects/${id}/wall.pdf?paper=${paper}`}
            target="_blank"
            rel="noopener"
            disabled={!saved}
          >
            As a PDF
          </Button>
        )}
        <Typography color="text.secondary">
          Print at 100 %: the square at the end must measure 20 mm.
        </Typography>
      </Stack>
      <Box
        sx={{
          width: `${wideMm}mm`,
          maxWidth: '100%',
          mx: 'auto',
          mb: 4,
          p: `${MARGIN_MM}mm`,
          background: '#fff',
          border: `1px solid ${colours.line}`,
          '@media print': { width: 'auto', border: 0, p: 0, m: 0 },
        }}
      >
        {what === 'wall' ? <WallSheetPages /> : what === 'fill' ? <FillSheets /> : <KilnCards />}
        <TestSquare />
      </Box>
    </Box>
  );
}

function TestSquare() {
  return (
    <Box sx={{ mt: 3, display: 'flex', gap: 1.5, alignItems: 'end', breakInside: 'avoid' }}>
      <Box
        data-test-square
        sx={{
          width: '20mm',
          height: '20mm',
          border: `1px solid ${colours.ink}`,
          boxSizing: 'border-box',
          flex: 'none',
        }}
      />
      <Typography variant="body2">True size when this square measures 20 mm each way.</Typography>
    </Box>
  );
}
