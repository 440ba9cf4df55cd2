import { Button } from '@mui/material';
import { Link, useParams } from 'react-router';
import { select } from '../document/planStore.ts';

/** Leads from any screen of a piece to one of its moves. */
export function ShowStep({ stepId }: { stepId: string }) {
  const { id } = useParams();
  return (
    <Button
      size="small"
      color="inherit"
      sx={{ py: 0, whiteSpace: 'nowrap', textDecoration: 'underline' }}
      component={Link}
      to={`/pieces/${id}`}
      onClick={() => select(stepId)}
    >
      Show it
    </Button>
  );
}
