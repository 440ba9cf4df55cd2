import { useEffect, useEffectEvent } from 'react';
import { create } from 'zustand';
import type { Reading } from '../../../core/instruments/reading.ts';
import type { WrittenRecord } from '../../../core/plan/index.ts';
import { api } from './api.ts';
import { takeNewer } from './autosave.ts';
import { usePlanStore } from './planStore.ts';
import { hear, useRecords } from './records.ts';

/** The last reading of an instrument. */
const useReading = create<{ readonly reading: Reading | null }>(() => ({ reading: null }));

interface RecordsNews {
  readonly log: number;
  readonly records: readonly WrittenRecord[];
}

/**
 * Hears what other pages write of the open piece, as long as this one is seen: a browser keeps few connections to one server, and a
 * page that comes back is told what it missed. A plan that was changed elsewhere is taken over where nothing here is unsaved.
 */
export function useNews(): void {
  const projectId = usePlanStore((state) => state.projectId);
  useEffect(() => {
    if (!projectId) return;
    let source: EventSource | undefined;
    const close = () => {
      source?.close();
      source = undefined;
    };
    const plan = (revision: number) => {
      const now = usePlanStore.getState();
      if (now.projectId === projectId && revision > now.revision && now.save.kind === 'saved')
        void api.get(projectId).then(takeNewer, () => undefined);
    };
    const open = () => {
      if (source || document.visibilityState === 'hidden') return;
      source = new EventSource(api.eventsUrl(projectId, useRecords.getState().log));
      source.addEventListener('records', ({ data }: MessageEvent<string>) => {
        const { records, log } = JSON.parse(data) as RecordsNews;
        hear(projectId, records, log);
      });
      source.addEventListener('reading', ({ data }: MessageEvent<string>) =>
        useReading.setState(JSON.parse(data) as { reading: Reading }),
      );
      source.addEventListener('plan', ({ data }: MessageEvent<string>) =>
        plan((JSON.parse(data) as { revision: number }).revision),
      );
    };
    const seen = () => {
      if (document.visibilityState === 'hidden') return close();
      open();
      // What is heard is what happens from now on; the plan may have been changed while nobody looked.
      void api.get(projectId).then(takeNewer, () => undefined);
    };
    open();
    document.addEventListener('visibilitychange', seen);
    return () => {
      document.removeEventListener('visibilitychange', seen);
      close();
    };
  }, [projectId]);
}

/** Calls for every reading that comes from now on. */
export function useReadings(take: (reading: Reading) => void): void {
  const latest = useEffectEvent(take);
  useEffect(
    () =>
      useReading.subscribe(({ reading }, before) => {
        if (reading && reading !== before.reading) latest(reading);
      }),
    [],
  );
}
