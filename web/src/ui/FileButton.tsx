import UploadFileIcon from '@mui/icons-material/UploadFile';
import { Button, type ButtonProps } from '@mui/material';
import { useRef } from 'react';

interface FileButtonProps extends Pick<ButtonProps, 'size' | 'variant'> {
  text: string;
  /** Endings and types that are offered, as for an HTML file entry. */
  accept: string;
  take(file: File): Promise<void>;
}

/** A button that takes a file in; the same file may be chosen again. */
export function FileButton({ text, accept, take, ...look }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...look} startIcon={<UploadFileIcon />} onClick={() => input.current?.click()}>
        {text}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        aria-label={text}
        onChange={(change) => {
          const file = change.target.files?.[0];
          if (file) void take(file);
          change.target.value = '';
        }}
      />
    </>
  );
}
