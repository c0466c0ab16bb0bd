import { DropdownMenu } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { Preference, Preferences } from '@/core/own';
import { dialogLater } from '../kit/later';
import { Icon } from '../kit/Icon';
import { send } from '../kit/send';
import { onOpenOwn } from './openOwn';

const OwnPassword = dialogLater(() => import('./OwnPassword'));
const OwnReading = dialogLater(() => import('./OwnReading'));
const ITEM =
  'flex cursor-pointer items-center gap-2 rounded-s px-3 py-2 outline-none data-[disabled]:text-ink-3 data-[highlighted]:bg-pine-soft';

/** Who is signed in, their password, and the way out. */
export function PersonMenu({
  name,
  roles,
  workshop,
  trial,
  preferences,
  fixed,
}: {
  name: string;
  roles: string;
  workshop: boolean;
  trial: boolean;
  preferences: Preferences;
  /** What of them stays as it was prepared. */
  fixed: readonly Preference[];
}) {
  const leave = async () => {
    const sent = await send('POST', '/api/sign-out');
    if (sent.ok) location.assign(sent.value.to);
  };
  const [changing, setChanging] = useState(false);
  const [reading, setReading] = useState(false);
  const [chosen, setChosen] = useState(preferences);
  useEffect(
    () =>
      onOpenOwn((own) => {
        if (own === 'frame.preferences') setReading(true);
        else if (!trial) setChanging(true);
      }),
    [trial],
  );
  return (
    <>
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="pill pill-pine min-h-[32px] max-w-[15rem] py-1" data-anchor="frame.person">
          <Icon name="user" size={16} />{' '}
          <span className="relative flex min-w-0 whitespace-pre">
            <span className="max-w-[7rem] truncate md:shrink-0" dir="auto">
              {name.split(' ')[0]}
            </span>
            <span className="max-md:sr-only"> · </span>
            <span className="truncate max-md:sr-only" dir="auto">
              {roles || 'no role yet'}
            </span>
          </span>{' '}
          <Icon name="down" size={14} />
        </DropdownMenu.Trigger>
        <DropdownMenu.Content align="end" sideOffset={6} className="card z-50 min-w-[14rem] p-1 shadow-lg">
          <DropdownMenu.Label className="px-3 py-2 text-sm text-ink-2">
            Signed in as <strong className="clip block text-ink">{name}</strong>
          </DropdownMenu.Label>
          {workshop && (
            <DropdownMenu.Item
              asChild
              className="flex items-center gap-2 rounded-s px-3 py-2 no-underline outline-none data-[highlighted]:bg-pine-soft"
            >
              <a href="/workshop">
                <Icon name="wrench" /> Go to the Workshop
              </a>
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item onSelect={() => setReading(true)} className={ITEM} data-anchor="frame.preferences">
            <Icon name="glasses" /> Preferences
          </DropdownMenu.Item>
          {!trial && (
            <DropdownMenu.Item onSelect={() => setChanging(true)} className={ITEM} data-anchor="frame.password">
              <Icon name="lock" /> Change your password
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item disabled={trial} onSelect={() => void leave()} className={ITEM}>
            <Icon name="leave" /> {trial ? 'Sign out (not in a trial)' : 'Sign out'}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      {reading && (
        <OwnReading
          preferences={chosen}
          fixed={fixed}
          onClose={(now) => {
            if (now) setChosen(now);
            setReading(false);
          }}
        />
      )}
      {changing && <OwnPassword onClose={() => setChanging(false)} />}
    </>
  );
}
