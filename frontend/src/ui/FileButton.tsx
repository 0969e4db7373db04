import { type ReactNode, useRef } from "react";

interface Props {
  /** What the button says. */
  children: ReactNode;
  /** What the file is, for whoever does not see the button. */
  label: string;
  accept: string;
  onChoose: (file: File) => void;
}

/** A button that opens a file of the device. */
export function FileButton({ children, label, accept, onChoose }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <button type="button" className="act" onClick={() => chooser.current?.click()}>
        {children}
      </button>
      <input
        ref={chooser}
        type="file"
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          if (chosen) onChoose(chosen);
          event.target.value = "";
        }}
      />
    </>
  );
}
