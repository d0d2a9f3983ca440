/** Said over every place of the demo firm. */
export const DemoBanner = () => (
  <p className="border-b border-line bg-sunken px-4 py-1 text-center text-sm text-quiet lg:px-8">
    Demo firm: every name, place and reading here is invented; its history came from simulated gauges.
  </p>
);

/** Why somebody could not be signed out. */
export const FaultBanner = ({ of }: { readonly of: string }) => (
  <p role="alert" className="border-l-4 border-stop bg-surface px-4 py-3">
    {of}
  </p>
);
