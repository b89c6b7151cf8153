import { describe, expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import { ItemList, Lists } from '../../resources/ts/fields/ItemList';
import { Fields, Kind } from '../../resources/ts/fields/Fields';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show, withProp } from './harness';

describe('the list of forces', () => {
  const forces = () =>
    show(
      <ItemList path={['forces']} noun="Force" empty="Nothing acts." />,
      documentOf({ forces: [{ ...(standard(['forces', 0]) as object), id: 'gravity', name: 'Gravity' }] }),
    );

  it('adds one of a kind with all its standards and a name of its own, and takes it away again', async () => {
    const { user, getByRole, findByRole, seen } = forces();
    for (const name of ['Add a force', 'Add a force']) {
      await user.click(getByRole('button', { name }));
      await user.click(await findByRole('menuitem', { name: /^Wind/ }));
    }
    expect(seen.document.forces.map((force) => force.id)).toEqual(['gravity', 'wind', 'wind-2']);
    expect(seen.document.forces[1]).toMatchObject({
      force: 'wind',
      name: 'Wind',
      wind: standard(['forces', 0, 'wind']),
    });
    await user.click(getByRole('button', { name: 'Remove Gravity' }));
    expect(seen.document.forces.map((force) => force.id)).toEqual(['wind', 'wind-2']);
  });

  it('opens one at a time, the one that the picture shows; the others are told in words', async () => {
    const { user, getByRole, getByText, queryByLabelText, findByRole } = forces();
    getByText('gravity 9.807 m/s²');
    expect(queryByLabelText('Acts everywhere')).toBeNull();
    await user.click(getByRole('button', { name: 'Add a force' }));
    await user.click(await findByRole('menuitem', { name: /^Blast/ }));
    // What has just been added is open.
    expect(useView.getState().force).toBe('blast');
    expect(getByRole('button', { name: /^Blast/ }).getAttribute('aria-expanded')).toBe('true');
    await user.click(getByRole('button', { name: /^Gravity/ }));
    expect(useView.getState().force).toBe('gravity');
    getByText('blast, 200 m/s² at 1 m');
    await user.click(getByRole('button', { name: /^Gravity/ }));
    expect(useView.getState().force).toBeNull();
  });

  it('says what it means that there is none', async () => {
    const { user, getByRole, getByText } = forces();
    await user.click(getByRole('button', { name: 'Remove Gravity' }));
    getByText('Nothing acts.');
  });
});

describe('what holds a cloth', () => {
  it('is drawn while one is at it', async () => {
    const { user, getByRole } = show(
      <Lists base={['props', 0, 'motion', 'cloth']} />,
      withProp(['motion'], { mover: 'cloth', cloth: { hold: [] } }),
    );
    expect(useView.getState().weighing).toBeNull();
    const button = getByRole('button', { name: 'Add a hold' });
    await user.hover(button);
    expect(useView.getState().weighing).toBe('hold');
    await user.unhover(button);
    expect(useView.getState().weighing).toBeNull();
    await user.tab();
    expect(useView.getState().weighing).toBe('hold');
  });
});

describe('a choice of kind', () => {
  it('keeps the settings of the kind one leaves, and shows those of the new one', async () => {
    const { user, getByRole, findByRole, queryByText, seen } = show(
      <Kind base={['props', 0, 'break']} as="pattern" />,
      withProp(['break', 'cellular', 'pieces'], 77),
    );
    expect(queryByText('Rays')).toBeNull();
    await user.click(getByRole('combobox', { name: 'Pattern' }));
    await user.click(await findByRole('option', { name: 'Web' }));
    expect(queryByText('Rays')).not.toBeNull();
    const parts = seen.document.props[0]?.break;
    expect(parts).toMatchObject({ pattern: 'web', cellular: { pieces: 77 } });
    expect(parts?.web).toBeDefined();
  });

  it('shows rare settings behind “More”', async () => {
    const { user, getByRole, queryByText } = show(<Fields base={['props', 0, 'prepare']} />, documentOf());
    expect(queryByText('Even triangles')).toBeNull();
    await user.click(getByRole('button', { name: 'More' }));
    expect(queryByText('Even triangles')).not.toBeNull();
    // What does not matter as things are is not there at all.
    expect(queryByText('Shell off the surface')).toBeNull();
  });
});

describe('what a prop is like', () => {
  it('sets several settings at once, and is nothing but itself once one is changed', async () => {
    const { user, getByRole, findByRole, getByLabelText, seen } = show(
      <Kind base={['props', 0, 'motion']} as="mover" />,
      withProp(['motion'], { mover: 'rigid', rigid: standard(['props', 0, 'motion', 'rigid']) }),
    );
    const like = () => getByRole('combobox', { name: 'Like' });
    // Where the standard values come from.
    expect(like().textContent).toContain('Clay');
    await user.click(like());
    await user.click(await findByRole('option', { name: 'Glass' }));
    expect(seen.document.props[0]?.motion.rigid).toMatchObject({ density: 2500, friction: 0.4 });
    expect(seen.edits).toBe(1);
    const density = getByLabelText('Density');
    await user.clear(density);
    await user.type(density, '3000{Enter}');
    expect(like().textContent).toContain('its own');
  });
});
