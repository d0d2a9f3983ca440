'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { TestVerdict } from '@/core/course';
import { type SignerRole, signerRoles, verdictWords } from '@/core/record';
import { newId, now } from '@/device/clock';
import { deviceStore, localPerson } from '@/device/store';
import { Button } from '@/ui/button';
import { subheading } from '@/ui/classes';
import { Notice } from '@/ui/notice';
import { post } from '@/ui/post';
import { dayText } from '@/ui/when';
import { SignForm } from './sign-form';
import { SignLink } from './sign-link';

export interface UnsealedProps {
  /** Tests of the paper, the one that it was opened by first, with what a signature binds. */
  readonly tests: readonly { readonly id: string; readonly judgementHash: string }[];
  /** Whoever is signed in. */
  readonly person: string;
  readonly occupier: string;
  readonly missing: readonly string[];
  /** Photographs that are named and have not come. */
  readonly photosOnTheWay: number;
  readonly voided: readonly string[];
  readonly signed: readonly { readonly role: SignerRole; readonly name: string }[];
  /** Roles that have signed for all of its tests. */
  readonly signedBy: readonly SignerRole[];
  readonly maySeal: boolean;
  readonly mayCountersign: boolean;
  /** Other finished tests of the visit, that the same paper can gather. */
  readonly others: readonly { readonly id: string; readonly system: string; readonly verdict: TestVerdict; readonly at: number }[];
  readonly address: string;
  /** Private links that wait for somebody to sign. */
  readonly links: readonly { readonly id: string; readonly name: string; readonly expiresAt: number }[];
}

const roleWords: Readonly<Record<SignerRole, string>> = { technician: 'Technician', customer: 'Customer', supervisor: 'Supervisor' };

/** What is still missing, whose signature is next, and the seal. */
export function Unsealed(props: UnsealedProps) {
  const { tests, person, occupier, missing, photosOnTheWay, voided, signed, signedBy, maySeal, mayCountersign, others, address, links } =
    props;
  const router = useRouter();
  const [fault, setFault] = useState<string>();
  const [withoutPhotos, setWithoutPhotos] = useState(false);
  // One signature, however often its sending is tried.
  const [signing, setSigning] = useState(() => ({ ids: new Map<string, string>(), signedAt: now() }));
  const idFor = (testId: string): string => {
    const id = signing.ids.get(testId) ?? newId();
    signing.ids.set(testId, id);
    return id;
  };
  const [first, ...also] = tests;
  const onDevice = useSignedHere(tests, signedBy);
  const may: Readonly<Record<SignerRole, boolean>> = { technician: maySeal, customer: maySeal, supervisor: mayCountersign };
  const role = signerRoles.find((one) => !signedBy.includes(one) && !onDevice.includes(one) && may[one]);
  const finished = !missing.some((line) => line.includes('The test is still'));
  const seal = async () => {
    const result = await post('POST /api/tests/[id]/seal', { id: first.id }, { withoutPhotos, also: also.map(({ id }) => id) });
    if (result.ok) router.refresh();
    else setFault(result.problem.message);
  };
  return (
    <>
      {missing.length > 0 && (
        <section>
          <h2 className={subheading}>Still missing</h2>
          <ul className="mt-1 list-inside list-[square]">
            {missing.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      {voided.length > 0 && (
        <Notice tone="caution">
          Something was written after {voided.join(' and ')} signed, so that signature no longer counts. Sign again.
        </Notice>
      )}
      {signed.map(({ role: one, name }) => (
        <p key={`${one} ${name}`}>
          <b>{roleWords[one]}:</b> {name}
        </p>
      ))}
      {onDevice.map((one) => (
        <p key={one} role="status">
          <b>{roleWords[one]}:</b> signed on this device, and on its way here.
        </p>
      ))}
      <Together others={others} address={address} chosen={also.map(({ id }) => id)} />
      {role !== undefined && finished && (
        <SignForm
          key={role}
          as={role}
          suggestedName={role === 'customer' ? occupier : person}
          save={async (form) => {
            const result = await post(
              'POST /api/tests/[id]/signature',
              { id: first.id },
              {
                ...form,
                id: idFor(first.id),
                signedAt: signing.signedAt,
                role,
                judgementHash: first.judgementHash,
                also: also.map((one) => ({ testId: one.id, id: idFor(one.id), judgementHash: one.judgementHash })),
              },
            );
            if (result.ok) {
              setSigning({ ids: new Map(), signedAt: now() });
              router.refresh();
            }
            return result.ok ? undefined : result.problem.message;
          }}
        />
      )}
      {maySeal && finished && !signedBy.includes('customer') && (
        <SignLink testId={first.id} also={also.map(({ id }) => id)} occupier={occupier} links={links} />
      )}
      {photosOnTheWay > 0 && (
        <Notice tone="caution">
          {photosOnTheWay === 1 ? 'A photograph is' : `${photosOnTheWay} photographs are`} named and not here yet: the device sends them
          after the readings.
          {maySeal && (
            <label className="mt-2 flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-(--action)"
                checked={withoutPhotos}
                onChange={(event) => setWithoutPhotos(event.target.checked)}
              />
              Seal without; the certificate says so
            </label>
          )}
        </Notice>
      )}
      {!maySeal && <p className="text-quiet">A technician or a supervisor signs and seals.</p>}
      <div hidden={!maySeal}>
        <Button size="great" className="w-full" disabled={missing.length > 0 || (photosOnTheWay > 0 && !withoutPhotos)} onClick={seal}>
          Seal the certificate
        </Button>
        <p className="mt-1 text-sm text-quiet">A sealed certificate never changes. A correction is a new one that names the old.</p>
        {fault !== undefined && (
          <p role="alert" className="mt-2 font-medium text-stop">
            {fault}
          </p>
        )}
      </div>
    </>
  );
}

/** Who has signed on this device what the server does not know yet; looked for again until it has come. */
function useSignedHere(tests: UnsealedProps['tests'], signedBy: readonly SignerRole[]): readonly SignerRole[] {
  const router = useRouter();
  const [roles, setRoles] = useState<readonly SignerRole[]>([]);
  useEffect(() => {
    let live = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      const person = localPerson();
      if (person === undefined) return;
      const { signatures } = deviceStore(person);
      const own = await Promise.all(tests.map(({ id }) => signatures.where('testId').equals(id).toArray()));
      const here = signerRoles.filter(
        (role) =>
          !signedBy.includes(role) &&
          tests.every(({ judgementHash }, index) => own[index].some((one) => one.role === role && one.judgementHash === judgementHash)),
      );
      if (!live) return;
      setRoles(here);
      if (here.length > 0) timer = setTimeout(() => router.refresh(), 2000);
    };
    look().catch(() => undefined);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [tests, signedBy, router]);
  return roles;
}

/** Other tests of the visit: one paper can gather them, each with its own judgement. */
function Together({
  others,
  address,
  chosen,
}: {
  readonly others: UnsealedProps['others'];
  readonly address: string;
  readonly chosen: readonly string[];
}) {
  const router = useRouter();
  // What is pressed shows at once; the paper follows.
  const [picked, setPicked] = useState(chosen);
  if (others.length === 0) return null;
  const choose = (id: string, isIn: boolean) => {
    const next = isIn ? [...picked, id] : picked.filter((one) => one !== id);
    setPicked(next);
    router.replace(`${address}${next.length === 0 ? '' : `?${next.map((one) => `with=${one}`).join('&')}`}`);
  };
  return (
    <fieldset>
      <legend className={subheading}>One paper with other tests of this site</legend>
      {others.map(({ id, system, verdict, at }) => (
        <label key={id} className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-5 shrink-0 accent-(--action)"
            checked={picked.includes(id)}
            onChange={({ target }) => choose(id, target.checked)}
          />
          <span>
            {system}: {verdictWords[verdict].title.toLowerCase()} <span className="text-sm text-quiet">{dayText(at)}</span>
          </span>
        </label>
      ))}
      <p className="text-sm text-quiet">Each keeps its own judgement. Not finished yet? Finish it, and it can be chosen here.</p>
    </fieldset>
  );
}
