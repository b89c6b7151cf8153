import { fireEvent } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { LoopSpan } from '../../resources/ts/cues/LoopSpan';
import { between, goesOn, within } from '../../resources/ts/cues/span';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

describe('frames that are looped', () => {
  it('lie within the shot, and are some of it', () => {
    expect(within(null, 96)).toBeNull();
    expect(within({ from: 1, to: 96 }, 96)).toBeNull();
    expect(within({ from: 40, to: 120 }, 96)).toEqual({ from: 40, to: 96 });
    expect(within({ from: 100, to: 120 }, 96)).toBeNull();
    expect(between(60, 40)).toEqual({ from: 40, to: 60 });
    expect(between(40, 40)).toBeNull();
  });

  it('are played again, the first after the last, or once', () => {
    const span = { from: 40, to: 60 };
    expect(goesOn(60.5, span, true)).toEqual({ frame: 60, ended: false });
    expect(goesOn(61.25, span, true)).toEqual({ frame: 40.25, ended: false });
    expect(goesOn(59.9, span, false)).toEqual({ frame: 59.9, ended: false });
    expect(goesOn(60.1, span, false)).toEqual({ frame: 60, ended: true });
    expect(goesOn(90, span, true).frame).toBeLessThan(61);
  });
});

describe('the span on the ruler', () => {
  beforeEach(() => useView.getState().set({ span: { from: 40, to: 60 } }));
  const shown = () =>
    show(
      <LoopSpan x={(frame) => 10 * frame} at={(x) => Math.round(x / 10)} last={96} height={20} />,
      documentOf(),
    );

  it('is moved by its ends, which never pass each other', () => {
    const { getByRole } = shown();
    fireEvent.keyDown(getByRole('slider', { name: 'Loop begins' }), { key: 'ArrowLeft' });
    expect(useView.getState().span).toEqual({ from: 39, to: 60 });
    fireEvent.pointerDown(getByRole('slider', { name: 'Loop ends' }), { button: 0 });
    fireEvent(window, new MouseEvent('pointermove', { clientX: 300 }));
    fireEvent(window, new MouseEvent('pointerup'));
    expect(useView.getState().span).toEqual({ from: 30, to: 39 });
  });

  it('goes when one no longer wants it', () => {
    const { getByRole, queryByTestId } = shown();
    fireEvent.click(getByRole('button', { name: /Loop all/ }));
    expect(useView.getState().span).toBeNull();
    expect(queryByTestId('loop-span')).toBeNull();
  });
});
