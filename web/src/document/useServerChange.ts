import { type QueryKey, useMutation, useQueryClient } from '@tanstack/react-query';

/**
 * The one way to change what the server keeps: `mutate(work)` does it, and afterwards whatever is shown of `kept` is asked for
 * anew, whether it went well or not. What went wrong stands in `error` until the next.
 */
export function useServerChange(...kept: readonly QueryKey[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSettled: () => Promise.all(kept.map((queryKey) => client.invalidateQueries({ queryKey }))),
  });
}
