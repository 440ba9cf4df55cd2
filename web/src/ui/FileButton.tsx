import UploadFileIcon from '@mui/icons-material/UploadFile';
import { Button, type ButtonProps } from '@mui/material';
import { type ReactNode, useRef } from 'react';

interface FileButtonProps extends Pick<ButtonProps, 'size' | 'variant'> {
  text: string;
  /** Endings and types that are offered, as for an HTML file entry. */
  accept: string;
  take(file: File): Promise<void>;
  /** Another sign than that of a file. */
  icon?: ReactNode;
  /** From the camera where there is one. */
  capture?: 'environment';
}

/** A button that takes a file in; the same file may be chosen again. */
export function FileButton({ text, accept, take, icon, capture, ...look }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...look} startIcon={icon ?? <UploadFileIcon />} onClick={() => input.current?.click()}>
        {text}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        hidden
        capture={capture}
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
