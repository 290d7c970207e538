import Alert from '@mui/material/Alert';
import { useAppSelector } from '../../../store/store.ts';
import { useDeskView } from '../benchContext.ts';

/** Toward a view's edge changes fade out over so many px. */
const EDGE_PX = 8;

/** Says so when what is marked reaches the edge of its direct view. */
export function EdgeNote() {
  const isInView = useAppSelector(({ bench }) => bench.project!.draft.view !== undefined);
  const { outline, source } = useDeskView();
  if (!isInView || !outline) return null;
  const { x, y, width, height } = outline.box;
  const { photo } = source;
  const isInside =
    x >= EDGE_PX && y >= EDGE_PX && x + width <= photo.width - EDGE_PX && y + height <= photo.height - EDGE_PX;
  if (isInside || width === 0) return null;
  return (
    <Alert severity="info" variant="outlined" icon={false} sx={{ color: 'text.primary' }}>
      The mark reaches the edge of this view, where changes fade out. Look elsewhere, or with a wider angle, to have all
      of it inside.
    </Alert>
  );
}
