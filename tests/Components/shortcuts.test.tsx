import { act } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Command } from '../../resources/ts/shot/commands';
import { useCommands } from '../../resources/ts/shot/commands';
import { nameOf, useShortcuts } from '../../resources/ts/shot/Shortcuts';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

/** The commands of a shot, whose keys are heard. */
function heard(document = documentOf()) {
  const all: { commands: Command[] } = { commands: [] };
  function Heard() {
    all.commands = useCommands();
    useShortcuts();
    return null;
  }
  return { ...show(<Heard />, document), all };
}

/** What a person presses who reads on the page of shortcuts what to press. */
function pressed(keys: string): KeyboardEvent {
  const names = keys.split(' ');
  const last = names[names.length - 1] ?? '';
  const shift = names.includes('Shift');
  const called = { Space: ' ', Esc: 'Escape', '→': 'ArrowRight', '←': 'ArrowLeft' }[last] ?? last;
  const key = /^[A-Z]$/.test(called) && !shift ? called.toLowerCase() : called;
  return new KeyboardEvent('keydown', {
    key,
    ctrlKey: names.includes('Ctrl'),
    shiftKey: shift || key === '?',
    bubbles: true,
    cancelable: true,
  });
}

describe('shortcuts', () => {
  afterEach(() => vi.restoreAllMocks());

  it('are what the page of shortcuts says they are, each for one command', () => {
    const { all } = heard();
    const keyed = all.commands.filter(({ keys }) => keys !== undefined);
    expect(keyed.length).toBeGreaterThan(25);
    for (const { title, keys } of keyed) {
      const name = nameOf(pressed(keys ?? ''));
      expect(
        all.commands.filter(({ match }) => match?.includes(name)).map((command) => command.title),
        `${keys}`,
      ).toEqual([title]);
    }
  });

  it('with shift are others than without, also while capitals are locked', () => {
    const press = (key: string, more: object = {}) => nameOf(new KeyboardEvent('keydown', { key, ...more }));
    expect(press('C', { shiftKey: true })).toBe('shift+c');
    expect(press('C')).toBe('c');
    expect(press('c', { shiftKey: true })).toBe('shift+c');
    expect(press('Z', { ctrlKey: true, shiftKey: true })).toBe('ctrl+shift+z');
    expect(press('?', { shiftKey: true })).toBe('?');
    expect(press('Home', { shiftKey: true })).toBe('shift+Home');
  });

  it('look through the camera, and make no cue of it', () => {
    const { seen } = heard(documentOf({ camera: { on: true } }));
    useView.getState().set({ through: false });
    act(() => void document.body.dispatchEvent(pressed('Shift C')));
    expect(useView.getState().through).toBe(true);
    expect(seen.document.cues).toEqual([]);
    act(() => void document.body.dispatchEvent(pressed('C')));
    expect(seen.document.cues).toHaveLength(1);
    useView.getState().set({ through: false });
  });
});
