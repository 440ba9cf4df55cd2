import SaveAltIcon from '@mui/icons-material/SaveAlt';
import { IconButton, Menu, MenuItem, Tooltip } from '@mui/material';
import { useState } from 'react';
import { useParams } from 'react-router';
import { stepResult } from '../../../../core/plan/index.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { HandOver } from './HandOver.tsx';
import { PictureDialog } from './PictureDialog.tsx';
import { ReadBack } from './ReadBack.tsx';
import { cutListCsv } from './cutListCsv.ts';
import { download, fileName } from '../../ui/download.ts';

/** Everything that leaves the application as a file. */
export function FilesMenu() {
  const evaluation = useEvaluation();
  const { plan, goalLane } = evaluation;
  const { id } = useParams();
  const saved = usePlanStore((state) => state.save.kind === 'saved');
  const selectedId = usePlanStore((state) => state.selectedId);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [picture, setPicture] = useState(false);
  const [makers, setMakers] = useState<'out' | 'back' | null>(null);
  const selected = (selectedId && stepResult(evaluation, selectedId)) || goalLane.steps.at(-1);
  const act = (what: () => void) => () => {
    setAnchor(null);
    what();
  };
  const text = (name: string, content: string, type: string) =>
    download(fileName(plan.name, name), new Blob([content], { type: `${type};charset=utf-8` }));
  return (
    <>
      <Tooltip title="Files out and in">
        <IconButton
          size="small"
          aria-label="Files out and in"
          aria-haspopup="menu"
          onClick={(e) => setAnchor(e.currentTarget)}
        >
          <SaveAltIcon />
        </IconButton>
      </Tooltip>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem
          onClick={act(() => text('.retablo.json', `${JSON.stringify(plan, null, 2)}\n`, 'application/json'))}
        >
          The plan, as a file to keep or pass on
        </MenuItem>
        <MenuItem disabled={!saved} onClick={act(() => setMakers('out'))}>
          A bar, handed over to another maker…{!saved && ' (once it is saved)'}
        </MenuItem>
        <MenuItem onClick={act(() => setMakers('back'))}>Read back what another maker made…</MenuItem>
        <MenuItem disabled={!selected?.after?.length} onClick={act(() => setPicture(true))}>
          A picture of the selected move…
        </MenuItem>
        <MenuItem onClick={act(() => text('-cut-list.csv', cutListCsv(evaluation), 'text/csv'))}>
          Cut list, CSV
        </MenuItem>
        {(['A4', 'LETTER'] as const).map((paper) => (
          <MenuItem
            key={paper}
            component="a"
            href={`/api/projects/${id}/wall.pdf?paper=${paper}`}
            target="_blank"
            rel="noopener"
            disabled={!saved}
            onClick={() => setAnchor(null)}
          >
            For the wall, PDF on {paper === 'A4' ? 'A4' : 'Letter'}
            {!saved && ' (once it is saved)'}
          </MenuItem>
        ))}
      </Menu>
      {makers === 'out' && <HandOver onClose={() => setMakers(null)} />}
      {makers === 'back' && <ReadBack onClose={() => setMakers(null)} />}
      {picture && selected && <PictureDialog result={selected} onClose={() => setPicture(false)} />}
    </>
  );
}
