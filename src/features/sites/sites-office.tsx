'use client';

import { useState } from 'react';
import { isFound, searchWords } from '@/core/register';
import { type ListedSite, SitesView } from './sites-view';

/** The firm's sites as the office has them, searched as one types. */
export function SitesOffice({ sites }: { readonly sites: readonly ListedSite[] }) {
  const [words, setWords] = useState('');
  const wanted = searchWords(words);
  const found = sites.filter(({ site, systems }) => isFound(wanted, `${site.name} ${site.address} ${site.occupier} ${systems.join(' ')}`));
  return <SitesView words={words} search={setWords} found={found} total={sites.length} />;
}
