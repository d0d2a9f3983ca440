/** Sound, vibration and title when a phase is due. An alarm sounds only while this screen is open, and says so. */
let audio: AudioContext | undefined;

/** Must be called from a tap or key: browsers keep sound locked until then. */
export function unlockSound(): void {
  audio ??= typeof AudioContext === 'undefined' ? undefined : new AudioContext();
  audio?.resume().catch(() => undefined);
}

function beep(at: number, hertz: number): void {
  if (audio === undefined) return;
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  tone.frequency.value = hertz;
  volume.gain.setValueAtTime(0.0001, audio.currentTime + at);
  volume.gain.exponentialRampToValueAtTime(0.4, audio.currentTime + at + 0.02);
  volume.gain.exponentialRampToValueAtTime(0.0001, audio.currentTime + at + 0.35);
  tone.connect(volume).connect(audio.destination);
  tone.start(audio.currentTime + at);
  tone.stop(audio.currentTime + at + 0.4);
}

export function soundAlarm(): void {
  for (const [index, hertz] of [660, 880, 660, 880].entries()) beep(index * 0.45, hertz);
  navigator.vibrate?.([300, 150, 300, 150, 600]);
}

/** Keeps the screen awake while it is open; asks again when it comes back to the front. */
export function keepAwake(): () => void {
  let lock: WakeLockSentinel | undefined;
  let over = false;
  const ask = () => {
    if (over || document.visibilityState !== 'visible') return;
    navigator.wakeLock?.request('screen').then(
      (got) => {
        lock = got;
        if (over) got.release().catch(() => undefined);
      },
      () => undefined,
    );
  };
  ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    over = true;
    document.removeEventListener('visibilitychange', ask);
    lock?.release().catch(() => undefined);
  };
}
