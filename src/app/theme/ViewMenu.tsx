import Button from '@mui/material/Button';
import { lazy, Suspense, useState } from 'react';

/** Menus are fetched with the first one that is opened. */
const ViewChoices = lazy(async () => ({ default: (await import('./ViewChoices.tsx')).ViewChoices }));

/** Theme of the interface and grey around the photo. */
export function ViewMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [wasOpened, setWasOpened] = useState(false);
  return (
    <>
      <Button
        variant="text"
        aria-haspopup="menu"
        onClick={(event) => {
          setAnchor(event.currentTarget);
          setWasOpened(true);
        }}
      >
        View
      </Button>
      <Suspense>{wasOpened && <ViewChoices anchor={anchor} onClose={() => setAnchor(null)} />}</Suspense>
    </>
  );
}
