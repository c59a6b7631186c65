import { useRef } from "react";
import { Button } from "./Button";

/** A button that opens the choice of files, and gives those that were chosen; the same file can be chosen again. */
export function FileButton({
  label,
  text = label,
  accept,
  multiple,
  variant,
  onFiles,
}: {
  label: string;
  text?: string;
  accept: string;
  multiple?: boolean;
  variant?: Parameters<typeof Button>[0]["variant"];
  onFiles: (files: File[]) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button variant={variant} onClick={() => input.current?.click()}>
        {text}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        multiple={multiple}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
    </>
  );
}
