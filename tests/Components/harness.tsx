import { render } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { standard } from '../../resources/ts/api/schema';
import type { FullShot, PropReadout, ShotDocument } from '../../resources/ts/api/types';
import { ShotContext, type ShotScope } from '../../resources/ts/shot/context';
import { both, write, type Path } from '../../resources/ts/state/document';

/** A document of one prop with everything as the schema has it, but for what is given. */
export function documentOf(parts: object = {}): ShotDocument {
  const prop = both(standard(['props', 0]), { id: 'a', name: 'A' });
  const whole = { ...(standard([]) as object), version: 2, frames: 48, cues: [], props: [prop] };
  return both(whole, parts) as ShotDocument;
}

export const withProp = (path: Path, value: unknown): ShotDocument =>
  write(documentOf(), ['props', 0, ...path], value);

/** What is given, in a shot whose edits stay in the page. */
export function show(
  children: ReactNode,
  start: ShotDocument,
  readout?: PropReadout,
  more: Partial<ShotScope> = {},
) {
  const seen = { document: start, edits: 0 };
  function Shot() {
    const [document, set] = useState(start);
    const scope = {
      handle: {
        shot: { id: 'shot', name: 'Shot', head: { id: 'head', number: 1 }, document } as unknown as FullShot,
        saving: 'saved',
        edit: (change: (document: ShotDocument) => ShotDocument) => {
          seen.document = change(seen.document);
          seen.edits++;
          set(seen.document);
        },
        hold: () => undefined,
        settled: () => Promise.resolve(),
      },
      prop: document.props[0],
      propIndex: 0,
      bake: null,
      rows: [],
      frames: null,
      beside: [],
      readouts: { a: readout },
      readoutError: null,
      findings: [],
      tracks: {},
      numbers: {},
      ...more,
    } as unknown as ShotScope;
    return <ShotContext value={scope}>{children}</ShotContext>;
  }
  const page = render(
    <QueryClientProvider client={new QueryClient()}>
      <Tooltip.Provider>
        <Shot />
      </Tooltip.Provider>
    </QueryClientProvider>,
  );
  return { ...page, user: userEvent.setup(), seen };
}
