import { useHotkeys } from 'react-hotkeys-hook';
import { useAppDispatch, useAppSelector } from '../../store/store.ts';
import type { BenchParts } from './benchContext.ts';
import { benchActions } from '../../state/benchSlice.ts';
import { toolsOf } from './card/tools.ts';

const BRUSH_STEP = 1.2;

/** Keys that work anywhere on the Bench except in text fields. */
export function useBenchKeys({ desk, view, look, lookClosely, kinds }: BenchParts, showKeys: () => void): void {
  const dispatch = useAppDispatch();
  const tools = toolsOf(kinds);
  const radius = useAppSelector((state) => state.bench.brushRadiusPx);
  const working = useAppSelector((state) => state.bench.work.stage !== '');
  const editing = useAppSelector((state) => state.bench.project?.draft.editing !== undefined);
  useHotkeys(
    tools.map(({ key }) => key.toLowerCase()),
    (event) => {
      const tool = tools.find(({ key }) => key.toLowerCase() === event.key.toLowerCase());
      if (tool) dispatch(benchActions.toolChosen(tool.tool));
    },
  );
  const resize = (factor: number): void => {
    const next = radius * factor;
    dispatch(benchActions.brushResized(factor > 1 ? Math.ceil(next) : Math.floor(next)));
  };
  useHotkeys('[', () => resize(1 / BRUSH_STEP), { useKey: true });
  useHotkeys(']', () => resize(BRUSH_STEP), { useKey: true });
  useHotkeys('m', () => void dispatch(benchActions.lastMarkBroughtBack()));
  useHotkeys('h', () => void dispatch(benchActions.markShownToggled()));
  useHotkeys('t', () => void desk.makeTakes());
  useHotkeys('u', () => desk.takeOver());
  useHotkeys('f', () => view.fit());
  useHotkeys('d', lookClosely);
  useHotkeys('+', () => view.zoomBy(1.25), { useKey: true });
  useHotkeys('-', () => view.zoomBy(1 / 1.25), { useKey: true });
  useHotkeys('o', (event) => look({ original: event.type === 'keydown' }), { keydown: true, keyup: true });
  useHotkeys('s', () => void dispatch(benchActions.splitToggled()));
  useHotkeys('x', () => void dispatch(benchActions.panelsToggled()));
  useHotkeys('?', showKeys, { useKey: true });
  useHotkeys('mod+z', () => void dispatch(benchActions.undone()), { preventDefault: true });
  useHotkeys('mod+shift+z, mod+y', () => void dispatch(benchActions.redone()), { preventDefault: true });
  useHotkeys('escape', () => {
    if (working) desk.cancel();
    else if (editing) dispatch(benchActions.draftLeft());
  });
}
