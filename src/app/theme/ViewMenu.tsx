import Button from '@mui/material/Button';
import ListSubheader from '@mui/material/ListSubheader';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../store/store.ts';
import { SURROUNDS, surroundChosen, themeChosen, type Surround } from './viewSettings.ts';

const THEMES = [
  ['paper', 'Paper'],
  ['dim', 'Dim room'],
] as const;
const SURROUND_WORDS: Record<Surround, string> = {
  white: 'White',
  light: 'Light',
  middle: 'Middle grey',
  dark: 'Dark',
};

/** Theme of the interface and grey around the photo. */
export function ViewMenu() {
  const dispatch = useAppDispatch();
  const settings = useAppSelector((state) => state.viewSettings);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button variant="text" aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)}>
        View
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <ListSubheader role="presentation">Theme</ListSubheader>
        {THEMES.map(([name, label]) => (
          <MenuItem
            key={name}
            role="menuitemradio"
            aria-checked={settings.theme === name}
            selected={settings.theme === name}
            onClick={() => dispatch(themeChosen(name))}
          >
            {label}
          </MenuItem>
        ))}
        <ListSubheader role="presentation">Around the photo</ListSubheader>
        {(Object.keys(SURROUNDS) as Surround[]).map((name) => (
          <MenuItem
            key={name}
            role="menuitemradio"
            aria-checked={settings.surround === name}
            selected={settings.surround === name}
            onClick={() => dispatch(surroundChosen(name))}
          >
            {SURROUND_WORDS[name]}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
