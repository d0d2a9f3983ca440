import { To } from '@/features/frame/source';
import { Button } from '@/ui/button';
import { Simulated } from '@/ui/notice';

/** What stands around every phase: the way back, that it is simulated, and the smell of gas one tap away. */
export function Frame({
  title,
  simulated,
  smell,
  putAway,
  children,
}: {
  readonly title: string;
  readonly simulated: boolean;
  /** Where gas is carried. */
  readonly smell?: () => void;
  /** Where several stand side by side: takes this one off the screen. */
  readonly putAway?: () => void;
  readonly children: React.ReactNode;
}) {
  return (
    <div className="@container flex flex-1 flex-col lg:min-h-0">
      <main className="mx-auto flex w-full max-w-[1500px] flex-1 flex-col @5xl:min-h-0">
        <header className="flex items-center justify-between gap-3 px-4 pt-2 text-sm text-quiet">
          <span className="line-clamp-2 leading-tight">
            {putAway === undefined && (
              <>
                <To place={{ at: 'today' }} className="underline">
                  Today
                </To>
                {' · '}
              </>
            )}
            {title}
          </span>
          <span className="flex shrink-0 items-center gap-3">
            {simulated && <Simulated />}
            {smell !== undefined && (
              <Button tone="stop" size="tall" className="px-3 text-sm" onClick={smell}>
                Smell of gas <kbd className="text-xs @max-5xl:hidden">G</kbd>
              </Button>
            )}
            {putAway !== undefined && (
              <Button tone="bare" size="tall" className="px-1" onClick={putAway}>
                Put away
              </Button>
            )}
          </span>
        </header>
        {children}
      </main>
    </div>
  );
}
