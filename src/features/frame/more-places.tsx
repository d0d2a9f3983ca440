'use client';

import { Ellipsis } from 'lucide-react';
import { Menu, type MenuItem } from '@/ui/menu';

/** What finds no room at the foot of a phone. */
export const MorePlaces = ({ items }: { readonly items: readonly MenuItem[] }) => (
  <Menu label="More places" items={items}>
    <button
      type="button"
      className="flex min-h-14 w-full flex-col items-center justify-center gap-0.5 px-1 text-xs leading-tight text-quiet"
    >
      <Ellipsis className="size-5" aria-hidden />
      More
    </button>
  </Menu>
);
