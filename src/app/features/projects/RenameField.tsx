import TextField from '@mui/material/TextField';

interface RenameFieldProps {
  value: string;
  /** Undefined: the name is left as it was. */
  onChange(value: string | undefined): void;
  onDone(): void;
}

/** A project's name while it is changed: taken over with Enter or when the field is left, left by Escape. */
export const RenameField = ({ value, onChange, onDone }: RenameFieldProps) => (
  <TextField
    autoFocus
    fullWidth
    size="small"
    label="New name"
    value={value}
    onChange={(event) => onChange(event.target.value)}
    onBlur={onDone}
    onKeyDown={(event) => {
      if (event.key === 'Enter') onDone();
      if (event.key === 'Escape') onChange(undefined);
    }}
    sx={{ mt: 1 }}
  />
);
