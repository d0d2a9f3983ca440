/** The key that presses a button; of no use on a phone. */
export const KeyHint = ({ of }: { readonly of: string }) => (
  <kbd aria-hidden className="ml-1 text-xs text-quiet max-lg:hidden">
    {of}
  </kbd>
);
