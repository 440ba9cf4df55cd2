import { ConfirmProvider } from 'material-ui-confirm';
import type { ReactNode } from 'react';

/** Where questions before something is thrown away are asked. */
export const Confirm = ({ children }: { children: ReactNode }) => (
  <ConfirmProvider
    useLegacyReturn={false}
    defaultOptions={{ cancellationText: 'Leave it', confirmationText: 'Remove' }}
  >
    {children}
  </ConfirmProvider>
);
