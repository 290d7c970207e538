import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';

/** The longest side of any frame, in px. */
const MAX_SIDE_PX = 30_000;

/** A length in px that is taken over when the field is left or Enter is pressed. */
export function SideField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const number = Number(text);
  const isUsable = Number.isInteger(number) && number >= 1 && number <= MAX_SIDE_PX;
  const take = (): void => {
    if (isUsable && number !== value) onChange(number);
    else if (!isUsable) setText(String(value));
  };
  return (
    <TextField
      size="small"
      label={`${label}, px`}
      value={text}
      error={!isUsable}
      helperText={isUsable ? undefined : `From 1 to ${MAX_SIDE_PX} px.`}
      slotProps={{ htmlInput: { inputMode: 'numeric' } }}
      onChange={(event) => setText(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => event.key === 'Enter' && take()}
    />
  );
}
