import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  Copy,
  HardDrive,
  LogOut,
  Moon,
  Package,
  PackageOpen,
  Pencil,
  Plus,
  Sun,
  Trash2,
  Users,
} from 'lucide-react';
import { useRef, useState } from 'react';
import { getJson, request, sendJson } from '../api/client';
import type { FullShot, Me, PropDocument, ShotCard } from '../api/types';
import { go } from '../state/route';
import { applyTheme, theme } from '../state/theme';
import { useView } from '../state/view';
import { Button, IconButton } from '../ui/controls';
import { Modal } from '../ui/Modal';
import { propOf } from '../api/files';
import { isPackage, openPackage, savePackage } from '../api/packages';
import { text } from '../api/text';
import { DropArea } from '../ui/DropArea';
import { Sharing } from './Sharing';

export function Yard() {
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  const query = useQuery({
    queryKey: ['shots'],
    queryFn: ({ signal }) => getJson<{ shots: ShotCard[] }>('shots', signal),
    staleTime: 0,
  });
  const me = useQuery({ queryKey: ['me'], queryFn: ({ signal }) => getJson<Me>('me', signal) }).data;
  const [sharing, setSharing] = useState<ShotCard | null>(null);
  const [naming, setNaming] = useState<ShotCard | 'new' | null>(null);
  const [dark, setDark] = useState(theme() === 'dark');
  const refresh = () => void client.invalidateQueries({ queryKey: ['shots'] });
  const failed = (error: Error) =>
    notify({ kind: 'error', title: 'That did not work', detail: error.message });
  const create = useMutation({
    mutationFn: (name: string) => sendJson<FullShot>('POST', 'shots', { name }),
    onSuccess: (shot) => go(`/shots/${shot.id}`),
    onError: failed,
  });
  const bring = useMutation({
    mutationFn: async (files: File[]) => {
      const packed = files.find(isPackage);
      if (packed && files.length > 1)
        throw new Error('A package is a shot of its own: bring it in without other files.');
      if (packed) return openPackage(packed);
      const props: PropDocument[] = [];
      for (const file of files)
        props.push(
          await propOf(
            file,
            props.map((prop) => prop.id),
          ),
        );
      const shot = await sendJson<FullShot>('POST', 'shots', { name: props[0]?.name ?? 'Shot' });
      const document = { ...shot.document, props };
      return sendJson<FullShot>(
        'PUT',
        `shots/${shot.id}/document`,
        { document },
        { 'If-Match': `"${shot.head.id}"` },
      );
    },
    onSuccess: (shot) => go(`/shots/${shot.id}`),
    onError: failed,
  });
  const give = useMutation({ mutationFn: savePackage, onError: failed });
  const packing = give.isPending ? give.variables.id : null;
  const opening = useRef<HTMLInputElement>(null);
  const rename = useMutation({
    mutationFn: ({ id, name }: { id: string; name: string }) => sendJson('PATCH', `shots/${id}`, { name }),
    onSuccess: refresh,
    onError: failed,
  });
  const duplicate = useMutation({
    mutationFn: (id: string) => sendJson('POST', `shots/${id}/duplicate`),
    onSuccess: refresh,
    onError: failed,
  });
  const remove = useMutation({
    mutationFn: (shot: ShotCard) => sendJson('DELETE', `shots/${shot.id}`).then(() => shot),
    onSuccess: (shot) => {
      refresh();
      notify({
        kind: 'info',
        title: `“${shot.name}” deleted`,
        actions: [
          {
            label: 'Bring it back',
            run: () => void sendJson('POST', `shots/${shot.id}/restore`).then(refresh, failed),
          },
        ],
      });
    },
    onError: failed,
  });

  return (
    <DropArea
      says="Let go: it becomes a shot of its own"
      className="h-full"
      onFiles={async (files) => {
        // What goes wrong is said as of every change here.
        await bring.mutateAsync(files).catch(() => undefined);
      }}
    >
      <main className="mx-auto flex h-full max-w-[1180px] flex-col px-6">
        <header className="flex h-16 shrink-0 items-center justify-between">
          <h1 className="text-[20px] font-semibold">Yard Break</h1>
          <div className="flex items-center gap-2">
            {me?.name ? (
              <>
                <span className="text-ink-2">{me.name}</span>
                <IconButton
                  label="Sign out"
                  onClick={() =>
                    void request('sign-out', { method: 'POST' }).then(
                      () => window.location.assign('/sign-in'),
                      failed,
                    )
                  }
                >
                  <LogOut size={16} />
                </IconButton>
              </>
            ) : null}
            <IconButton
              label={dark ? 'Light colours' : 'Dark colours'}
              onClick={() => {
                applyTheme(dark ? 'light' : 'dark');
                setDark(!dark);
              }}
            >
              {dark ? <Sun size={16} /> : <Moon size={16} />}
            </IconButton>
            <IconButton label="What takes room" onClick={() => go('/room')}>
              <HardDrive size={16} />
            </IconButton>
            <input
              ref={opening}
              type="file"
              accept=".zip"
              className="hidden"
              aria-label="A package of a shot"
              onChange={(event) => {
                bring.mutate([...(event.target.files ?? [])]);
                // The same file may be chosen again.
                event.target.value = '';
              }}
            />
            <Button onClick={() => opening.current?.click()} disabled={bring.isPending}>
              <PackageOpen size={15} /> Open a package
            </Button>
            <Button look="main" onClick={() => setNaming('new')}>
              <Plus size={15} /> New shot
            </Button>
          </div>
        </header>
        <p className="mb-4 text-ink-2">The yard: every shot you are breaking, the last one touched first.</p>
        {query.error ? (
          <div role="alert" className="rounded-md border border-error p-4">
            <p className="font-semibold text-error">The yard cannot be shown</p>
            <p>{query.error.message}</p>
            <Button className="mt-2" onClick={refresh}>
              Try again
            </Button>
          </div>
        ) : null}
        {query.data?.shots.length === 0 ? (
          <div className="rounded-md border border-dashed border-line p-10 text-center">
            <p className="mb-3">No shots yet. A shot holds the props, how they break, and what moves them.</p>
            <Button look="main" onClick={() => setNaming('new')}>
              Start the first shot
            </Button>
          </div>
        ) : null}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-5 pb-10">
          {query.data?.shots.map((shot) => (
            <li
              key={shot.id}
              className="ease group overflow-hidden rounded-md border border-line bg-card focus-within:border-teal hover:border-ink-2"
            >
              <a
                href={`/shots/${shot.id}`}
                className="block outline-none"
                onClick={(event) => {
                  if (event.metaKey || event.ctrlKey) return;
                  event.preventDefault();
                  go(`/shots/${shot.id}`);
                }}
              >
                <span className="flex aspect-[8/5] items-center justify-center bg-well">
                  {shot.picture ? (
                    <img src={shot.picture} alt="" className="h-full w-full object-cover" />
                  ) : (
                    <span className="text-ink-2">gets its picture when opened</span>
                  )}
                </span>
                <span className="block px-3 pt-2 text-[15px] font-semibold">{shot.name}</span>
                <span className="block truncate px-3 text-ink-2">
                  {shot.props.join(', ') || 'empty'} · {(shot.frames / shot.fps).toFixed(1)} s
                </span>
              </a>
              <div className="flex items-center justify-between px-2 pb-1.5">
                <span className="min-w-0 truncate pl-1 text-[12px] text-ink-2" title={facts(shot, me)}>
                  {packing === shot.id ? 'Packing' : facts(shot, me)}
                </span>
                <span className="flex shrink-0">
                  {me?.name && shot.owner === me.name ? (
                    <IconButton label={`Share ${shot.name}`} onClick={() => setSharing(shot)}>
                      <Users size={14} />
                    </IconButton>
                  ) : null}
                  <IconButton label={`Rename ${shot.name}`} onClick={() => setNaming(shot)}>
                    <Pencil size={14} />
                  </IconButton>
                  <IconButton label={`Duplicate ${shot.name}`} onClick={() => duplicate.mutate(shot.id)}>
                    <Copy size={14} />
                  </IconButton>
                  <IconButton
                    label={`Package ${shot.name} for another machine`}
                    disabled={packing !== null}
                    onClick={() => give.mutate(shot)}
                  >
                    <Package size={14} />
                  </IconButton>
                  {shot.mine ? (
                    <IconButton label={`Delete ${shot.name}`} onClick={() => remove.mutate(shot)}>
                      <Trash2 size={14} />
                    </IconButton>
                  ) : null}
                </span>
              </div>
            </li>
          ))}
        </ul>
        {me ? <Sharing shot={sharing} me={me} onClose={() => setSharing(null)} /> : null}
        <NameDialog
          target={naming}
          onClose={() => setNaming(null)}
          onName={(name) => {
            if (naming === 'new') create.mutate(name);
            else if (naming) rename.mutate({ id: naming.id, name });
            setNaming(null);
          }}
        />
      </main>
    </DropArea>
  );
}

/** What a card says below: where people sign in whose the shot is, else how often it was changed. */
function facts(shot: ShotCard, me: Me | undefined): string {
  if (!me?.name) return `revision ${shot.revision}`;
  if (shot.owner === null) return 'everybody’s';
  if (shot.owner !== me.name) return `${shot.owner} shares it`;
  return shot.people.length > 0 ? `shared with ${shot.people.join(', ')}` : 'yours';
}

function NameDialog({
  target,
  onClose,
  onName,
}: {
  target: ShotCard | 'new' | null;
  onClose: () => void;
  onName: (name: string) => void;
}) {
  return (
    <Modal title={target === 'new' ? 'New shot' : 'Rename the shot'} open={target !== null} onClose={onClose}>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const name = text(new FormData(event.currentTarget).get('name')).trim();
          if (name !== '') onName(name);
        }}
      >
        <input
          name="name"
          autoFocus
          required
          maxLength={80}
          aria-label="Name of the shot"
          defaultValue={target === 'new' || target === null ? '' : target.name}
          className="h-8 flex-1 rounded-md border border-line bg-paper px-2"
        />
        <Button look="main" type="submit">
          {target === 'new' ? 'Start it' : 'Rename'}
        </Button>
      </form>
    </Modal>
  );
}
