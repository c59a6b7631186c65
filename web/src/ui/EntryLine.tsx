import { useRef, useState } from "react";

/**
 * A box for one typed line. Enter gives it to `onEnter`, which tells whether it was taken; what is not understood stays, with the reason.
 * Several lines that are pasted go to `onLines`.
 */
export function EntryLine({
  id,
  label,
  placeholder,
  onEnter,
  onLines,
}: {
  id: string;
  label: string;
  placeholder: string;
  onEnter: (text: string) => Promise<boolean>;
  onLines?: (lines: readonly string[]) => void;
}) {
  const [text, setText] = useState("");
  const [error, setError] = useState("");
  const box = useRef<HTMLInputElement>(null);
  const enter = async () => {
    if (!text.trim()) return;
    try {
      // What is typed meanwhile stays.
      if (await onEnter(text)) setText((now) => (now === text ? "" : now));
      setError("");
    } catch (reason) {
      setError(reason instanceof Error ? reason.message : String(reason));
    }
    box.current?.focus();
  };
  return (
    <div>
      <label className="sr-only" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        ref={box}
        data-testid={id}
        className="figure w-full rounded-lg border border-line bg-sheet px-3 py-2 text-[14px] focus:border-accent"
        placeholder={placeholder}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onPaste={(event) => {
          const lines = event.clipboardData
            .getData("text")
            .split(/\r?\n/)
            .map((line) => line.trim())
            .filter(Boolean);
          if (!onLines || lines.length < 2) return;
          event.preventDefault();
          onLines(lines);
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") void enter();
          if (event.key === "Escape") setText("");
        }}
      />
      {error && (
        <p role="alert" className="mt-1 text-[12.5px] text-fail">
          {error}
        </p>
      )}
    </div>
  );
}
