import { Box, Button, Typography } from '@mui/material';
import { Link, useRouteError } from 'react-router';

/** For an address that leads nowhere, and for a page that broke: what is saved stays saved. */
export function NotFound() {
  const error = useRouteError();
  return (
    <Box sx={{ p: 4 }} role="alert">
      <Typography variant="h1">{error ? 'This page broke' : 'There is nothing here'}</Typography>
      <Typography sx={{ my: 2 }}>
        {error instanceof Error
          ? `${error.message} What was saved is safe on the shelf.`
          : 'The address leads nowhere.'}
      </Typography>
      <Button component={Link} to="/" variant="contained" reloadDocument>
        Back to the shelf
      </Button>
    </Box>
  );
}
