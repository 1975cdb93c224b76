import { Button } from '@mui/material';
import { useRef } from 'react';

/** Takes a file of this machine: one at a time, the same one again if it is picked again. */
export function FileButton(props: {
  words: string;
  /** Kinds of file it takes, as the browser names them. */
  accept: string;
  /** How the field is called for who hears it; its words where nothing is said. */
  label?: string;
  onFile: (file: File) => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => field.current?.click()}>{props.words}</Button>
      <input
        ref={field}
        type="file"
        accept={props.accept}
        aria-label={props.label ?? props.words}
        tabIndex={-1}
        className="visually-hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) props.onFile(file);
        }}
      />
    </>
  );
}
