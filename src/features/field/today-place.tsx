'use client';

import { useDevice } from '@/device/provider';
import { today } from '@/device/use-ground';
import { useLive } from '@/device/use-live';
import { FollowUpsToday } from '@/features/follow-ups/follow-ups-today';
import { SignalLine } from '@/features/frame/signal-line';
import { RunningHolds } from '@/features/today/running-holds';
import { TodayView } from '@/features/today/today-view';
import { todayOnDevice } from './today-on-device';

/** Today by itself: a day begins here, and nothing of what the other lists need is waited for. */
export function TodayPlace() {
  const { store, person, facts, refresh } = useDevice();
  const data = useLive(store, (read) => todayOnDevice(read, today(), person.role), [person.role]);
  return data === undefined ? (
    <p className="p-6 text-quiet">Opening…</p>
  ) : (
    <TodayView
      data={data}
      running={<RunningHolds />}
      // A store that was filled by an earlier build has none.
      followUps={<FollowUpsToday followUps={facts.followUps ?? []} after={() => void refresh()} />}
      signal={<SignalLine />}
    />
  );
}
