import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';

interface NumberFieldProps {
  label: string;
  value: number;
  min: number;
  max: number;
  onChange: (value: number) => void;
}

/** A number that is taken over when the field is left or Enter is pressed; anything unusable puts the old one back. */
export function NumberField({ label, value, min, max, onChange }: NumberFieldProps) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const take = (): void => {
    const next = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(next)) setText(String(value));
    else if (next !== value) onChange(Math.max(min, Math.min(max, next)));
  };
  return (
    <TextField
      size="small"
      label={label}
      value={text}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  );
}
