import { waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import type { Finding } from '../../resources/ts/api/types';
import { ShotSheet } from '../../resources/ts/shot/ShotSheet';
import { both } from '../../resources/ts/state/document';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

const prop = (id: string, name: string, more: object = {}) =>
  both(standard(['props', 0]), { id, name, ...more });

function open(findings: Finding[] = []) {
  const weight = { stack: [{ source: 'reach', reach: { props: ['oar'] } }] };
  const props = [prop('buoy', 'Buoy', { release: { trigger: 'weight' }, weight }), prop('oar', 'Oar')];
  const shown = show(<ShotSheet />, documentOf({ props }), undefined, { findings });
  const row = (name: string) => within(shown.getByDisplayValue(name).closest('tbody') as HTMLElement);
  return { ...shown, row, names: () => shown.seen.document.props.map((each) => each.name) };
}

describe('the shot sheet', () => {
  it('says what each stage does and which weight drives it, and goes there', async () => {
    const { user, row } = open();
    useView.getState().set({ sheet: true });
    await user.click(row('Buoy').getByText('lets go by nearness to Oar'));
    expect(useView.getState()).toMatchObject({ sheet: false, stage: 'timing', propId: 'buoy' });
  });

  it('renames, but never to nothing', async () => {
    const { user, getByLabelText, names } = open();
    const name = getByLabelText('Name of Oar');
    await user.clear(name);
    await user.tab();
    expect(names()).toEqual(['Buoy', 'Oar']);
    await user.clear(name);
    await user.type(name, '  Paddle {Enter}');
    expect(names()).toEqual(['Buoy', 'Paddle']);
  });

  it('orders, copies, adds and removes', async () => {
    const { user, getByRole, names, seen } = open();
    expect((getByRole('button', { name: 'Buoy further up' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(getByRole('button', { name: 'Oar further up' }));
    expect(names()).toEqual(['Oar', 'Buoy']);
    await user.click(getByRole('button', { name: 'Copy Buoy' }));
    await waitFor(() => expect(names()).toEqual(['Oar', 'Buoy', 'Buoy copy']));
    expect(new Set(seen.document.props.map((each) => each.id)).size).toBe(3);
    await user.click(getByRole('button', { name: 'Remove Oar' }));
    await user.click(getByRole('button', { name: 'Add a prop' }));
    expect(names()).toEqual(['Buoy', 'Buoy copy', 'Box']);
    await user.click(getByRole('button', { name: 'Add a prop' }));
    await user.click(getByRole('button', { name: 'Copy Buoy' }));
    expect(names()).toEqual(['Buoy', 'Buoy copy', 'Box', 'Box 2', 'Buoy copy 2']);
  });

  it('switches props off and on', async () => {
    const { user, getByRole, getByText, queryByText, seen } = open();
    await user.click(getByRole('button', { name: 'Switch Oar off' }));
    expect(seen.document.props[1]?.on).toBe(false);
    getByText('switched off');
    await user.click(getByRole('button', { name: 'Switch Oar on' }));
    expect(seen.document.props[1]?.on).toBe(true);
    expect(queryByText('switched off')).toBeNull();
  });

  it('shows a broken link in its row, with a remedy', async () => {
    const pointer = '/props/0/weight/stack/0/reach/props';
    const { user, row, seen } = open([
      {
        severity: 'warn',
        pointer,
        text: 'It follows a prop that is gone.',
        remedy: { label: 'Take it out', pointer, value: [] },
      },
    ]);
    expect(row('Oar').queryByText(/is gone/)).toBeNull();
    await user.click(row('Buoy').getByRole('button', { name: 'Take it out' }));
    expect(seen.document.props[0]?.weight.stack[0]?.reach?.props).toEqual([]);
  });

  it('puts props into groups, which are folded, switched, moved, named and taken apart', async () => {
    const { user, getByRole, getByLabelText, queryByDisplayValue, names, seen } = open();
    const groups = () => seen.document.props.map((each) => each.group);
    const put = async (name: string, into: string) => {
      await user.click(getByLabelText(`Group of ${name}`));
      await user.click(getByRole('menuitem', { name: into }));
    };
    await user.click(getByRole('button', { name: 'Add a prop' }));
    await put('Buoy', 'A new group');
    await put('Box', 'Group 1');
    expect(names()).toEqual(['Buoy', 'Box', 'Oar']);
    expect(groups()).toEqual(['Group 1', 'Group 1', '']);
    // Within its group a prop goes no farther than its ends; by itself it passes the whole group.
    expect((getByRole('button', { name: 'Box further down' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(getByRole('button', { name: 'Box further up' }));
    await user.click(getByRole('button', { name: 'Oar further up' }));
    expect(names()).toEqual(['Oar', 'Box', 'Buoy']);
    await user.click(getByRole('button', { name: 'Group 1 further up' }));
    expect(names()).toEqual(['Box', 'Buoy', 'Oar']);
    await user.click(getByRole('button', { name: 'Switch all of Group 1 off' }));
    expect(seen.document.props.map((each) => each.on)).toEqual([false, false, true]);
    await user.click(getByRole('button', { name: 'Fold Group 1 away' }));
    expect(queryByDisplayValue('Buoy')).toBeNull();
    await user.click(getByRole('button', { name: 'Show the props of Group 1' }));
    const name = getByLabelText('Name of the group Group 1');
    await user.clear(name);
    await user.type(name, 'Afloat{Enter}');
    expect(groups()).toEqual(['Afloat', 'Afloat', '']);
    await put('Box', 'No group');
    expect(names()).toEqual(['Buoy', 'Box', 'Oar']);
    await user.click(getByRole('button', { name: 'Take Afloat apart' }));
    expect(groups()).toEqual(['', '', '']);
    expect(names()).toEqual(['Buoy', 'Box', 'Oar']);
  });
});
