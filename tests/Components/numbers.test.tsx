import { describe, expect, it } from 'vitest';
import { Field } from '../../resources/ts/fields/Field';
import { seek } from '../../resources/ts/state/frame';
import type { Path } from '../../resources/ts/state/document';
import { read } from '../../resources/ts/state/document';
import { documentOf, show, withProp } from './harness';

const DENSITY: Path = ['props', 0, 'motion', 'rigid', 'density'];
const PLACE: Path = ['props', 0, 'position'];

const number = (path: Path, start = documentOf()) => {
  const shown = show(<Field path={path} />, start);
  return { ...shown, value: () => read(shown.seen.document, path) };
};

describe('a number', () => {
  it('takes what is typed when it is left, with or without a unit', async () => {
    const { user, getByRole, value } = number(DENSITY);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '2.5 g/cm³');
    expect(value()).toBe(1900);
    await user.tab();
    expect(value()).toBe(2500);
    await user.clear(field);
    await user.type(field, '800{Enter}');
    expect(value()).toBe(800);
  });

  it('says that it cannot read a unit that measures something else, and keeps the value', async () => {
    const { user, getByRole, value, seen } = number(DENSITY);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '5 mm{Enter}');
    expect(value()).toBe(1900);
    expect(seen.edits).toBe(0);
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect((field as HTMLInputElement).value).toBe('1900');
  });

  it('stays within its limits', async () => {
    const { user, getByRole, value } = number(DENSITY);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '-3{Enter}');
    expect(value()).toBe(Number(field.getAttribute('aria-valuemin')));
  });

  it('steps from what has been typed, ten times with Shift', async () => {
    const { user, getByRole, value } = number(DENSITY);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '1000{ArrowUp}');
    const step = Number(value()) - 1000;
    expect(step).toBeGreaterThan(0);
    await user.keyboard('{Shift>}{ArrowDown}{/Shift}');
    expect(value()).toBe(1000 + step - 10 * step);
  });

  it('forgets what has been typed with Escape, and goes back to its standard by double-click', async () => {
    const { user, getByRole, value, seen } = number(DENSITY, withProp(['motion', 'rigid', 'density'], 700));
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '99{Escape}');
    await user.tab();
    expect(seen.edits).toBe(0);
    await user.dblClick(field);
    expect(value()).toBe(1900);
  });
});

describe('a number over time', () => {
  const keyed = () =>
    number(
      [...PLACE, 'x'],
      withProp(['position', 'x'], {
        keys: [
          { frame: 1, value: 0, ease: 'linear' },
          { frame: 20, value: 2, ease: 'hold' },
        ],
      }),
    );

  it('changes the key that stands at the frame and keeps its ease', async () => {
    const { user, getByRole, value } = keyed();
    seek(20);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '3{Enter}');
    expect(value()).toEqual({
      keys: [
        { frame: 1, value: 0, ease: 'linear' },
        { frame: 20, value: 3, ease: 'hold' },
      ],
    });
  });

  it('puts a key where there is none, that goes on as the one before', async () => {
    const { user, getByRole, value } = keyed();
    seek(10);
    const field = getByRole('spinbutton');
    await user.clear(field);
    await user.type(field, '1.5{Enter}');
    expect((value() as { keys: object[] }).keys).toContainEqual({ frame: 10, value: 1.5, ease: 'linear' });
  });

  it('gets its first key from the diamond and gives up its last', async () => {
    const { user, getByRole, findByRole, queryByText, value } = number(
      [...PLACE, 'y'],
      withProp(['position', 'y'], 0.7),
    );
    seek(5);
    await user.click(getByRole('button', { name: 'Key Place y over time' }));
    await user.click(await findByRole('button', { name: 'Key at frame 5' }));
    expect(value()).toEqual({ keys: [{ frame: 5, value: 0.7, ease: 'smooth' }] });
    expect((getByRole('button', { name: 'Key at frame 5' }) as HTMLButtonElement).disabled).toBe(true);
    await user.click(getByRole('button', { name: 'Delete key 1' }));
    expect(value()).toBe(0.7);
    expect(queryByText(/One value for the whole shot/)).not.toBeNull();
  });
});

describe('three numbers', () => {
  it('are one setting with a field each, whatever is not set counting as its standard', async () => {
    const { user, getByRole, value } = number(['props', 0, 'scale']);
    const field = getByRole('spinbutton', { name: 'Size z in ×' });
    expect((field as HTMLInputElement).value).toBe('1');
    await user.clear(field);
    await user.type(field, '2{Enter}');
    expect(value()).toMatchObject({ z: 2 });
  });
});
