/** The key that presses a button; of no use on a phone. @param plain in the button's own colour, on a filled one */
export const KeyHint = ({ of, plain = false }: { readonly of: string; readonly plain?: boolean }) => (
  <kbd aria-hidden className={`ml-1 text-xs max-lg:hidden ${plain ? '' : 'text-quiet'}`}>
    {of}
  </kbd>
);
