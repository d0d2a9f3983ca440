/* The worker that sends is woken when something is put into the outbox; the pages’ program and the server’s share one process. */

const shared = globalThis as { __vastStoneMailWake?: () => void };

export const onWake = (wake: () => void): void => {
  shared.__vastStoneMailWake = wake;
};

/** Something may be due now. Where no worker runs here, another process looks by itself. */
export const wakeMail = (): void => shared.__vastStoneMailWake?.();
