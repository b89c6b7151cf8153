import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sendJson } from '../api/client';
import type { Me, ShotCard } from '../api/types';
import { useView } from '../state/view';
import { Button } from '../ui/controls';
import { Modal } from '../ui/Modal';

/** With whom a shot is shared: they can do all with it but delete and share it. */
export function Sharing({ shot, me, onClose }: { shot: ShotCard | null; me: Me; onClose: () => void }) {
  return (
    <Modal title={`Share “${shot?.name ?? ''}”`} open={shot !== null} onClose={onClose}>
      {shot ? <Names key={shot.id} shot={shot} me={me} onClose={onClose} /> : null}
    </Modal>
  );
}

function Names({ shot, me, onClose }: { shot: ShotCard; me: Me; onClose: () => void }) {
  const client = useQueryClient();
  const notify = useView((view) => view.notify);
  const [chosen, setChosen] = useState(shot.people);
  const others = me.people.filter((name) => name !== shot.owner);
  const share = useMutation({
    mutationFn: () => sendJson('PUT', `shots/${shot.id}/people`, { people: chosen }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['shots'] });
      onClose();
    },
    onError: (error: Error) =>
      notify({ kind: 'error', title: 'It is shared as before', detail: error.message }),
  });
  if (others.length === 0)
    return <p>Nobody else can sign in here yet. Whoever runs the server gives out names.</p>;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        share.mutate();
      }}
    >
      <fieldset className="mb-3 flex flex-col gap-1.5">
        <legend className="mb-2 text-ink-2">
          They can open, change, bake and copy it; only you can delete and share it.
        </legend>
        {others.map((name) => (
          <label key={name} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-teal"
              checked={chosen.includes(name)}
              onChange={(event) =>
                setChosen(event.target.checked ? [...chosen, name] : chosen.filter((one) => one !== name))
              }
            />
            {name}
          </label>
        ))}
      </fieldset>
      <Button look="main" type="submit" disabled={share.isPending}>
        Share
      </Button>
    </form>
  );
}
