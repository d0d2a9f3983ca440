import { input } from './classes';

/** A figure as it is read off an instrument: decimal keys on a phone, and no guesses of the browser. */
export const FigureInput = ({
  value,
  change,
  label,
  placeholder,
  shortcut,
  className = '',
}: {
  readonly value: string;
  readonly change: (text: string) => void;
  /** Where no label stands around it. */
  readonly label?: string;
  readonly placeholder?: string;
  readonly shortcut?: string;
  readonly className?: string;
}) => (
  <input
    inputMode="decimal"
    autoComplete="off"
    aria-label={label}
    aria-keyshortcuts={shortcut}
    placeholder={placeholder}
    className={`${input} figures ${className}`}
    value={value}
    onChange={(event) => change(event.target.value)}
  />
);
