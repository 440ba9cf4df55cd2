import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { type Problem, planInText } from '../../../../core/plan/index.ts';
import { RequestError, api } from '../../document/api.ts';
import { fonts } from '../../ui/theme.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { Popup } from '../../ui/Popup.tsx';

/** Bytes. A plan is some kilobytes; anything much larger is some other file. */
const MOST_BYTES = 2_000_000;

/** Problems shown at a time. */
const SHOWN = 12;

interface Refused {
  file: string;
  problems: readonly Problem[];
}

/** Puts a plan file on the shelf as a new piece; one that cannot be read is told where, and changes nothing. */
export function OpenPlanFile() {
  const [refused, setRefused] = useState<Refused | null>(null);
  const navigate = useNavigate();
  const take = async (file: File): Promise<void> => {
    const refuse = (problems: readonly Problem[]) => setRefused({ file: file.name, problems });
    if (file.size > MOST_BYTES) return refuse([{ path: '', message: 'It is too large to be a plan.' }]);
    const read = planInText(await file.text());
    if (!read.ok) return refuse(read.problems);
    try {
      const made = await api.create(read.plan);
      await navigate(`/pieces/${made.id}`);
    } catch (error) {
      const { message, problems } = error as RequestError;
      refuse(problems?.length ? problems : [{ path: '', message }]);
    }
  };
  return (
    <>
      <FileButton text="Open a plan file" accept=".json,application/json" take={take} />
      {refused !== null && (
        <Popup
          title={<>{refused?.file} cannot be opened</>}
          onClose={() => setRefused(null)}
          actions={
            <>
              <Button variant="contained" onClick={() => setRefused(null)} autoFocus>
                Close
              </Button>
            </>
          }
        >
          <Typography sx={{ mb: 1 }}>Nothing was changed. What is wrong with it:</Typography>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {refused?.problems.slice(0, SHOWN).map(({ path, message }) => (
              <li key={path + message}>
                {path && <span style={{ fontFamily: fonts.numbers }}>{path}: </span>}
                {message}
              </li>
            ))}
          </Box>
          {refused && refused.problems.length > SHOWN && (
            <Typography>and {refused.problems.length - SHOWN} more.</Typography>
          )}
        </Popup>
      )}
    </>
  );
}
