import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { both } from '../../resources/ts/state/document';
import type { PropDocument } from '../../resources/ts/api/types';
import { frontsOf, frontsOfForces } from '../../resources/ts/state/fronts';
import { documentOf } from './harness';

describe('the bar of a release', () => {
  it('goes from its frame over as many as it takes', () => {
    const prop = (release: object) =>
      both(standard(['props', 0]), { id: 'a', name: 'A', release }) as PropDocument;
    const at = prop({ trigger: 'frame', frame: { frame: 12, over: 30 } });
    expect(frontsOf(at, 2)).toMatchObject([
      { path: ['props', 2, 'release', 'frame'], title: 'Lets go', from: 12, to: 42, lasts: true },
    ]);
    // A remedy sets only some: the server fills in the others.
    const set = { ...prop({}), release: { trigger: 'frame', frame: { frame: 12 } } } as PropDocument;
    expect(frontsOf(set, 2)).toMatchObject([{ from: 12, to: 12 }]);
    // At a cue it hangs on the flag.
    expect(frontsOf(prop({ trigger: 'cue', cue: { cue: 'hit' } }), 2)).toEqual([]);
  });
});

describe('bars of forces', () => {
  it('are of those that set in at a frame of their own and are on', () => {
    const force = (rest: object) => both(standard(['forces', 0]), rest);
    const document = documentOf({
      forces: [
        force({ name: 'Down', force: 'gravity' }),
        force({ name: 'Charge', force: 'blast', blast: { cue: '', frame: 12 } }),
        force({ name: 'By a cue', force: 'blast', blast: { cue: 'hit', frame: 16 } }),
        force({ name: 'Dud', force: 'blast', blast: { cue: '', frame: 20 }, on: false }),
      ],
    });
    const [bar, ...rest] = frontsOfForces(document);
    expect(rest).toEqual([]);
    expect(bar).toMatchObject({ path: ['forces', 1, 'blast'], title: 'Charge', from: 12, to: null });
  });
});
