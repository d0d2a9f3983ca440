'use client';

import { Contrast, Moon, Sun } from 'lucide-react';
import { themes } from './theme-script';

/** Limestone by day, basalt for plant rooms, noon for sun on the screen; kept on this device. */
export function ThemeSwitch() {
  const turn = () => {
    const root = document.documentElement;
    const at = themes.findIndex((one) => one === (root.dataset.theme ?? themes[0]));
    const next = themes[(at + 1) % themes.length] ?? 'limestone';
    if (next === 'limestone') delete root.dataset.theme;
    else root.dataset.theme = next;
    localStorage.setItem('vast-stone-theme', next);
  };
  return (
    <button
      type="button"
      onClick={turn}
      className="inline-flex min-h-11 min-w-11 items-center justify-center rounded-[3px] hover:bg-sunken"
      aria-label="Change between the limestone, basalt and noon themes"
    >
      <Sun className="size-5 [[data-theme]_&]:hidden" aria-hidden />
      <Moon className="hidden size-5 [[data-theme=basalt]_&]:block" aria-hidden />
      <Contrast className="hidden size-5 [[data-theme=noon]_&]:block" aria-hidden />
    </button>
  );
}
