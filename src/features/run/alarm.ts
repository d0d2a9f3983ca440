/** What a device is to say aloud, and how loud it is to call: a choice of whoever holds it. */
export const soundChoices = ['speak', 'loud'] as const;
export type SoundChoice = (typeof soundChoices)[number];
const keyOf = (choice: SoundChoice): string => `vast-stone-sound-${choice}`;
export const isChosen = (choice: SoundChoice): boolean => localStorage.getItem(keyOf(choice)) === 'yes';
export const choose = (choice: SoundChoice, on: boolean): void => localStorage.setItem(keyOf(choice), on ? 'yes' : 'no');

/** Says something aloud, where that is chosen and the device can. What is newer goes before what was still to be said. */
export function speak(words: string): void {
  if (!isChosen('speak') || typeof speechSynthesis === 'undefined') return;
  speechSynthesis.cancel();
  speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}

/** Sound, vibration and title when a phase is due. An alarm sounds only while this screen is open, and says so. */
let audio: AudioContext | undefined;

/** Must be called from a tap or key: browsers keep sound locked until then. */
export function unlockSound(): void {
  audio ??= typeof AudioContext === 'undefined' ? undefined : new AudioContext();
  audio?.resume().catch(() => undefined);
}

function beep(at: number, hertz: number, loud: boolean): void {
  if (audio === undefined) return;
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  // A square wave of full height carries through a plant room.
  if (loud) tone.type = 'square';
  tone.frequency.value = hertz;
  volume.gain.setValueAtTime(0.0001, audio.currentTime + at);
  volume.gain.exponentialRampToValueAtTime(loud ? 1 : 0.4, audio.currentTime + at + 0.02);
  volume.gain.exponentialRampToValueAtTime(0.0001, audio.currentTime + at + 0.35);
  tone.connect(volume).connect(audio.destination);
  tone.start(audio.currentTime + at);
  tone.stop(audio.currentTime + at + 0.4);
}

export function soundAlarm(): void {
  const loud = isChosen('loud');
  const tones = [660, 880, 660, 880];
  for (const [index, hertz] of (loud ? [...tones, ...tones, ...tones] : tones).entries()) beep(index * 0.45, hertz, loud);
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
