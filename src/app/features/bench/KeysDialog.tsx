import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { MONO } from '../../theme/theme.ts';
import { useBenchParts } from './benchContext.ts';
import { toolsOf } from './card/tools.ts';

const KEYS: readonly (readonly [string, string])[] = [
  ['[ and ]', 'Brush smaller, larger'],
  ['Shift, Alt, both held', 'Add to the mark, take away from it, keep what is in both'],
  ['Double click on a placed piece', 'Open its step again'],
  ['M', 'Bring back the last mark'],
  ['H', 'Hide or show the mark, and the lines over a frame'],
  ['Shift, Alt, dragging a frame', 'Take the opposite side along; leave the photo’s edges out of account'],
  ['T', 'Make takes, another round'],
  ['1 to 9, in the takes', 'Choose a take'],
  ['U', 'Use the chosen take'],
  ['Escape', 'One step back: gesture, pen, computation, open step'],
  ['Arrows, on the photo', 'Nudge the subject or pan; with Shift farther'],
  ['Arrows, + and -, Home, on a sphere', 'Turn (with Shift farther), angle of view, straight ahead'],
  ['K, on the photo', 'A pen for the arrow keys; Enter puts it down and lifts it'],
  ['Enter, Backspace, setting points', 'Close the outline; take the last point back'],
  ['Wheel, pinch, + and -', 'Zoom; Shift and wheel, or Space and drag, to pan'],
  ['F, D', 'Fit, 100 %'],
  ['O held, S', 'The original, the split'],
  ['X', 'Fold or show the panels'],
  ['Ctrl Z, Ctrl Shift Z', 'Undo, redo'],
];

/** Every key of the Bench. */
export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const tools = toolsOf(useBenchParts().kinds);
  const keys = [[tools.map(({ key }) => key).join(' '), tools.map(({ label }) => label).join(', ')] as const, ...KEYS];
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys</DialogTitle>
      <DialogContent tabIndex={0} role="region" aria-labelledby="keys-title">
        <Table size="small">
          <TableBody>
            {keys.map(([key, meaning]) => (
              <TableRow key={key}>
                <TableCell component="th" scope="row" sx={{ fontFamily: MONO, whiteSpace: 'nowrap' }}>
                  {key}
                </TableCell>
                <TableCell>{meaning}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}
