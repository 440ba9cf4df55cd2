import { useSnackbar } from 'notistack';
import { InShop } from '../../editors/form/InShop.tsx';
import { Box, CircularProgress } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import {
  type ComponentType,
  type LazyExoticComponent,
  Suspense,
  lazy,
  useCallback,
  useDeferredValue,
  useEffect,
  useState,
} from 'react';
import { Navigate, useParams, useRouteError } from 'react-router';
import { RequestError, api } from '../../document/api.ts';
import { useRole } from '../../document/door.ts';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { type StoredProject, flowsAwaited } from '../../../../core/plan/index.ts';
import { wantFlows } from '../../document/flows.ts';
import { Bench } from '../plan/Bench.tsx';
import { AtWorkStrip } from './AtWorkStrip.tsx';
import { ConflictDialog } from './ConflictDialog.tsx';
import { FirstPanel } from '../plan/FirstPanel.tsx';
import { GoalStrip } from './GoalStrip.tsx';
import { KeysDialog } from './KeysDialog.tsx';
import { Lanes } from '../plan/Lanes.tsx';
import { PlanHeader } from './PieceHead.tsx';
import { StepColumn } from '../plan/StepColumn.tsx';
import { openWith, useAutosave } from '../../document/autosave.ts';
import { paintAhead } from '../../document/workers/host.ts';
import { asItStands, closeLog } from '../../document/records.ts';
import { useNews } from '../../document/useNews.ts';
import { takeOver } from '../../document/unsaved.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { evaluated, useEvaluation } from '../../document/useEvaluation.ts';
import { useLater } from '../../ui/useLater.ts';
import { Unopened } from './Unopened.tsx';
import { useKeys } from './useKeys.ts';

/** The screens of a piece beside its plan, each fetched when it is first opened. */
const VIEWS: Record<string, LazyExoticComponent<ComponentType>> = {
  wish: lazy(() => import('../wish/WishView.tsx')),
  can: lazy(() => import('../can/CanScreen.tsx')),
  blade: lazy(() => import('../blade/BladeView.tsx')),
  stock: lazy(() => import('../stock/StockView.tsx')),
  kiln: lazy(() => import('../kiln/KilnView.tsx')),
  shop: lazy(() => import('../shop/PieceShop.tsx')),
  print: lazy(() => import('../print/PrintView.tsx')),
  bench: lazy(() => import('../bench/BenchScreen.tsx')),
  log: lazy(() => import('../log/LogView.tsx')),
  history: lazy(() => import('../history/HistoryView.tsx')),
};

/** A piece as the server has it, and an edit of it that waits in the browser; the edit alone while the server is away. */
async function opened(id: string) {
  const edit = await takeOver(id);
  try {
    return { project: await api.get(id), edit };
  } catch (error) {
    const away = !(error instanceof RequestError) || error.status === 0 || error.status === 503;
    if (!edit || !away) throw error;
    const { plan, revision, at } = edit;
    const updatedAt = new Date(at).toISOString();
    const project: StoredProject = {
      id,
      name: plan.name,
      state: 'planning',
      revision,
      updatedAt,
      plan,
      records: [],
      log: 0,
    };
    return { project, edit };
  }
}

/** Loads a piece from the shelf and opens it for editing. */
export function Component() {
  const { id = '' } = useParams();
  const query = useQuery({
    queryKey: ['project', id],
    queryFn: async () => {
      const found = await opened(id);
      const plan = asItStands(found.edit?.plan ?? found.project.plan, found.project.records);
      paintAhead(plan);
      // Here, so that the page has to draw only what is worked out.
      evaluated(plan);
      return found;
    },
    gcTime: 0,
    staleTime: Infinity,
    retry: 1,
  });
  const openId = usePlanStore((state) => state.projectId);
  const { view } = useParams();
  const role = useRole();
  useEffect(() => {
    if (query.data && usePlanStore.getState().projectId !== query.data.project.id)
      openWith(query.data.project, query.data.edit);
  }, [query.data]);
  useEffect(
    () => () => {
      usePlanStore.setState({ projectId: null, plan: null, selectedId: null, laneId: null });
      closeLog();
    },
    [],
  );
  if (query.isError) return <Unopened id={id} title="This piece cannot be opened" error={query.error} />;
  if (role === 'bench' && view !== 'bench') return <Navigate to={`/pieces/${id}/bench`} replace />;
  return openId === id ? <OpenPlan /> : <CircularProgress aria-label="Opening" sx={{ m: 4 }} />;
}

/** A piece that broke its page. */
export function ErrorBoundary() {
  const { id = '' } = useParams();
  return <Unopened id={id} title="This page broke" error={useRouteError() as Error} />;
}

function OpenPlan() {
  const [help, setHelp] = useState(false);
  const { view } = useParams();
  const View = view === undefined ? undefined : VIEWS[view];
  const showHelp = useCallback(() => setHelp(true), []);
  useAutosave();
  useNews();
  useKeys(showHelp);
  const evaluation = useEvaluation();
  useRefusals();
  useEffect(() => wantFlows('open', flowsAwaited(evaluation)), [evaluation]);
  useEffect(() => () => wantFlows('open', []), []);
  useEffect(() => {
    document.title = `${evaluation.plan.name} · Retablo`;
  }, [evaluation.plan.name]);
  // By the fire nothing stands but the move.
  if (view === 'bench' && View)
    return (
      <InShop shop={evaluation.shop}>
        <Suspense fallback={<CircularProgress aria-label="Opening" sx={{ m: 4 }} />}>
          <View />
        </Suspense>
        <ConflictDialog />
      </InShop>
    );
  return (
    <InShop shop={evaluation.shop}>
      <Box sx={{ minHeight: '100dvh', height: { md: '100dvh' }, display: 'flex', flexDirection: 'column' }}>
        <PlanHeader onHelp={showHelp} />
        <GoalStrip />
        {View ? (
          <Suspense fallback={<CircularProgress aria-label="Opening" sx={{ m: 4 }} />}>
            <View />
          </Suspense>
        ) : (
          <PlanBody />
        )}
        <ConflictDialog />
        <AtWorkStrip />
        <KeysDialog open={help} onClose={() => setHelp(false)} />
      </Box>
    </InShop>
  );
}

/** An edit that the plan cannot hold is said, and the plan stays as it was. */
function useRefusals(): void {
  const { enqueueSnackbar } = useSnackbar();
  const refused = usePlanStore((state) => state.refused);
  useEffect(() => {
    if (refused.length > 0)
      enqueueSnackbar(`Not changed: ${refused[0].message}.`, { variant: 'error', preventDuplicate: true });
  }, [refused, enqueueSnackbar]);
}

/** Lanes above, the selected move below. */
function PlanBody() {
  const evaluation = useEvaluation();
  // The large picture comes first while a number is being typed; the panels follow.
  const settled = useDeferredValue(evaluation);
  const selectedId = usePlanStore((state) => state.selectedId);
  const laneId = usePlanStore((state) => state.laneId);
  const found = evaluation.lanes.flatMap((l) => l.steps).find((s) => s.step.id === selectedId);
  const lane =
    evaluation.lanes.find((l) => (found ? l.steps.includes(found) : l.lane.id === laneId)) ??
    evaluation.goalLane;
  const result = found ?? lane.steps.at(-1);
  // The steel is asked for before its numbers are drawn.
  const isAsked = useLater();
  return (
    <>
      <Lanes evaluation={settled} laneId={lane.lane.id} selectedId={result?.step.id ?? null} />
      {result ? (
        <SteelAndNumbers
          leastSteelPx={520}
          steel={<Bench key={result.step.kind} lane={lane} result={result} />}
          numbers={isAsked && <StepColumn key={result.step.id} lane={lane} result={result} />}
        />
      ) : (
        <FirstPanel laneId={lane.lane.id} />
      )}
    </>
  );
}
