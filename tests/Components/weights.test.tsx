import { waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Field } from '../../resources/ts/fields/Field';
import { ItemList } from '../../resources/ts/fields/ItemList';
import { standard } from '../../resources/ts/api/schema';
import { BLOCK, weightAt, WeightStore } from '../../resources/ts/tracks/WeightStore';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show, withProp } from './harness';

const reach = { source: 'reach', reach: standard(['props', 0, 'weight', 'stack', 0, 'reach']) };
const PATH = ['props', 0, 'weight', 'stack', 0, 'reach'];

describe('near other props', () => {
  const open = (props: string[]) => {
    const start = withProp(['weight', 'stack'], [{ ...reach, reach: { ...(reach.reach as object), props } }]);
    const ball = { ...(standard(['props', 0]) as object), id: 'ball', name: 'Ball' };
    const document = { ...start, props: [...start.props, ball] } as typeof start;
    const shown = show(
      <>
        <Field path={[...PATH, 'props']} />
        <Field path={[...PATH, 'full']} />
        <Field path={[...PATH, 'none']} />
      </>,
      document,
    );
    const settings = () =>
      shown.seen.document.props[0]?.weight.stack[0]?.reach as { props: string[]; full: number; none: number };
    return { ...shown, settings };
  };

  it('lets one tick the others, not the prop itself', async () => {
    const { user, getAllByRole, getByLabelText, settings } = open([]);
    expect(getAllByRole('checkbox')).toHaveLength(1);
    await user.click(getByLabelText('Ball'));
    expect(settings().props).toEqual(['ball']);
    await user.click(getByLabelText('Ball'));
    expect(settings().props).toEqual([]);
  });

  it('names what is gone and takes it out', async () => {
    const { user, getByText, getByRole, settings } = open(['ball', 'ghost']);
    getByText(/“ghost” is no longer in the shot/);
    await user.click(getByRole('button', { name: 'Take out ghost' }));
    expect(settings().props).toEqual(['ball']);
  });

  it('keeps its two distances in order: the other gives way', async () => {
    const { user, getByRole, settings } = open(['ball']);
    const full = getByRole('spinbutton', { name: 'Full within in m' });
    await user.clear(full);
    await user.type(full, '80 cm{Enter}');
    expect(settings()).toMatchObject({ full: 0.8, none: 0.8 });
    const none = getByRole('spinbutton', { name: 'None beyond in m' });
    await user.clear(none);
    await user.type(none, '0.2{Enter}');
    expect(settings()).toMatchObject({ full: 0.2, none: 0.2 });
  });
});

describe('one source of several', () => {
  it('can be seen alone', async () => {
    const sweep = {
      ...(standard(['props', 0, 'weight', 'stack', 0]) as object),
      source: 'sweep',
      sweep: standard(['props', 0, 'weight', 'stack', 0, 'sweep']),
    };
    const { user, getByRole } = show(
      <ItemList path={['props', 0, 'weight', 'stack']} noun="Source" empty="" drawn />,
      withProp(['weight', 'stack'], [sweep, sweep]),
    );
    await user.click(getByRole('button', { name: 'Show Source 2 alone' }));
    expect(useView.getState().alone).toBe(1);
    await user.click(getByRole('button', { name: 'Show all of them mixed' }));
    expect(useView.getState().alone).toBeNull();
    // Numbers change when one goes.
    await user.click(getByRole('button', { name: 'Show Source 2 alone' }));
    await user.click(getByRole('button', { name: 'Remove Source 1' }));
    expect(useView.getState().alone).toBeNull();
  });
});

describe('the weights of all frames', () => {
  /** Three vertices; vertex v at frame f is f + v. Answers come when they are let. */
  function server() {
    const asked: string[] = [];
    const waiting: (() => void)[] = [];
    vi.spyOn(globalThis, 'fetch').mockImplementation(async (url) => {
      const query = new URL(url as string, 'http://yard').searchParams;
      asked.push(String(query));
      await new Promise<void>((resolve) => waiting.push(resolve));
      const block = query.get('block');
      const first = block === null ? Number(query.get('frame')) : BLOCK * Number(block) + 1;
      const count = block === null ? 1 : BLOCK;
      return new Response(
        Uint8Array.from({ length: 3 * count }, (_, k) => first + Math.floor(k / 3) + (k % 3)),
      );
    });
    return { asked, next: () => waiting.shift()?.() };
  }

  it('are asked for where one looks first, then around it, and never twice', async () => {
    const { asked, next } = server();
    const store = new WeightStore('shots/s/props/a/weights', 40);
    expect(store.at(20)).toBeUndefined();
    expect(asked).toEqual(['frame=20', 'block=1']);
    next();
    await waitFor(() => expect(store.version).toBe(1));
    expect([...(store.at(20) ?? [])]).toEqual([20, 21, 22]);
    next();
    await waitFor(() => expect(asked).toEqual(['frame=20', 'block=1', 'block=2']));
    next();
    await waitFor(() => expect(asked).toHaveLength(4));
    next();
    await waitFor(() => expect(store.version).toBe(4));
    expect(store.ready).toBe(40);
    for (const frame of [1, 16, 17, 32, 33, 40]) expect([...(store.at(frame) ?? [])][0]).toBe(frame);
    expect([...(store.at(99) ?? [])][0]).toBe(40);
    expect(asked).toEqual(['frame=20', 'block=1', 'block=2', 'block=0']);
  });

  it('show another frame while a block is still computed', async () => {
    const { asked, next } = server();
    const store = new WeightStore('w', 200);
    store.at(1);
    next();
    await waitFor(() => expect(store.version).toBe(1));
    store.at(100);
    expect(asked).toEqual(['frame=1', 'block=0', 'frame=100']);
  });

  it('show a glimpse of what is dragged, only the last of what waits, until it is let go', async () => {
    const { asked, next } = server();
    const store = new WeightStore('w', 40);
    store.draft(7, { drag: 1 });
    store.draft(7, { drag: 2 });
    store.draft(8, { drag: 3 });
    expect(asked).toEqual(['frame=7']);
    next();
    await waitFor(() => expect(asked).toEqual(['frame=7', 'frame=8']));
    next();
    await waitFor(() => expect([...(store.peek(8) ?? [])]).toEqual([8, 9, 10]));
    expect(store.peek(7)).toBeUndefined();
    store.settle();
    expect(store.peek(8)).toBeUndefined();
    // Every edit of the document was sent as it was.
    const sent = vi.mocked(globalThis.fetch).mock.calls.map(([, init]) => init?.body);
    expect(sent).toEqual(['{"document":{"drag":1}}', '{"document":{"drag":3}}']);
  });

  it('are told over time for a place between three vertices', async () => {
    const { next } = server();
    const store = new WeightStore('w', 20);
    const place = {
      vertices: [0, 1, 2] as [number, number, number],
      shares: [0.5, 0.5, 0] as [number, number, number],
    };
    store.at(3);
    next();
    next();
    await waitFor(() => expect(store.version).toBe(2));
    const over = store.over(place);
    expect(over[2]).toBeCloseTo(3.5 / 255, 9);
    expect(over[17]).toBeNull();
    expect(weightAt(store.at(3) as Uint8Array, place)).toBeCloseTo(3.5 / 255, 9);
    store.close();
  });

  it('say in words why nothing more comes, unless they were closed', async () => {
    vi.spyOn(globalThis, 'fetch').mockImplementation(() =>
      Promise.resolve(
        new Response(JSON.stringify({ title: 'No', detail: 'No file has been brought in yet.' }), {
          status: 422,
        }),
      ),
    );
    const store = new WeightStore('w', 20);
    store.at(1);
    await waitFor(() => expect(store.trouble).toBe('No file has been brought in yet.'));
    expect(store.peek(1)).toBeUndefined();
    const closed = new WeightStore('w', 20);
    closed.at(1);
    closed.close();
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(closed.trouble).toBe('');
  });

  it('keep within their budget what is near', async () => {
    const { asked, next } = server();
    const store = new WeightStore('w', 16 * 20, 3 * BLOCK * 5);
    store.at(160);
    for (let k = 0; k < 12; k++) {
      next();
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    const blocks = asked.filter((each) => each.startsWith('block'));
    expect(blocks.length).toBeLessThanOrEqual(6);
    expect(blocks.slice(0, 3)).toEqual(['block=9', 'block=10', 'block=8']);
  });
});

describe('what the form offers', () => {
  it('says that there is no other prop', () => {
    const { getByText } = show(<Field path={[...PATH, 'props']} />, documentOf({}));
    getByText(/There is no other prop/);
  });
});
