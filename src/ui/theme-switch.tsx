'use client';

import { Moon, Sun } from 'lucide-react';

/** Limestone by day, basalt for plant rooms; kept on this device. */
export function ThemeSwitch() {
  const turn = () => {
    const root = document.documentElement;
    const dark = root.dataset.theme === 'basalt';
    if (dark) delete root.dataset.theme;
    else root.dataset.theme = 'basalt';
    localStorage.setItem('vast-stone-theme', dark ? 'limestone' : 'basalt');
  };
  return (
    <button
      type="button"
      onClick={turn}
      className="inline-flex min-h-11 min-w-11 items-center justify-center rounded-[3px] hover:bg-sunken"
      aria-label="Change between the limestone and basalt themes"
    >
      <Sun className="size-5 [[data-theme=basalt]_&]:hidden" aria-hidden />
      <Moon className="hidden size-5 [[data-theme=basalt]_&]:block" aria-hidden />
    </button>
  );
}
