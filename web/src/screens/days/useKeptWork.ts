import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { WorkHours } from '../../../../core/days/index.ts';
import type { StoredSetup } from '../../../../core/plan/index.ts';
import { shopSchema } from '../../../../core/shop/shop.ts';
import { shopApi } from '../../document/shopApi.ts';
import { useServerChange } from '../../document/useServerChange.ts';

/** Quiet after the last change before it is kept, ms. */
const QUIET_MS = 600;

/** When the shop works, as its first set-up has it; changed at once, and kept a moment later. */
export function useKeptWork() {
  const client = useQueryClient();
  const act = useServerChange(['setups']);
  const { mutate } = act;
  const first = () => client.getQueryData<StoredSetup[]>(['setups'])?.[0];
  const [work, setWork] = useState<WorkHours>(() => (first()?.settings ?? shopSchema.parse({})).work);
  const unsaved = useRef<WorkHours | null>(null);
  const save = useRef((leaving = false) => {
    const some = unsaved.current;
    if (!some) return;
    unsaved.current = null;
    mutate(async () => {
      // What else was changed of the set-up stays; a page that is left can wait for no answer.
      const known = leaving ? first() : (await shopApi.setups())[0];
      return known
        ? shopApi.changeSetup(known.id, { ...known.settings, work: some }, leaving)
        : shopApi.keepSetup(shopSchema.parse({ work: some }));
    });
  });
  useEffect(() => {
    const keep = save.current;
    const timer = setTimeout(() => keep(), QUIET_MS);
    return () => clearTimeout(timer);
  }, [work]);
  useEffect(() => {
    const keep = save.current;
    const leave = () => keep(true);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      keep(true);
    };
  }, []);
  return {
    work,
    error: act.error,
    change(some: Partial<WorkHours>) {
      unsaved.current = { ...work, ...unsaved.current, ...some };
      setWork(unsaved.current);
    },
  };
}
