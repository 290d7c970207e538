import ListSubheader from '@mui/material/ListSubheader';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
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

/** The choices of the view menu, under the button that opened it. */
export function ViewChoices({ anchor, onClose }: { anchor: HTMLElement | null; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const settings = useAppSelector((state) => state.viewSettings);
  return (
    <Menu anchorEl={anchor} open={anchor !== null} onClose={onClose}>
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
  );
}
