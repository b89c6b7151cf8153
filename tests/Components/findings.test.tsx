import { expect, it } from 'vitest';
import { standard } from '../../resources/ts/api/schema';
import type { Finding } from '../../resources/ts/api/types';
import { Findings } from '../../resources/ts/stages/Findings';
import { both } from '../../resources/ts/state/document';
import { documentOf, show } from './harness';

const props = ['a', 'b', 'c'].map((id) => both(standard(['props', 0]), { id, name: id }));
const warn = (prop: number, text: string): Finding => ({
  severity: 'warn',
  pointer: `/props/${prop}/release`,
  text,
  remedy: null,
});

it('shows what stops a bake first, then the prop at hand, a few in all, and the rest when asked', async () => {
  const findings = [
    ...['b1', 'b2', 'b3', 'b4'].map((text) => warn(1, text)),
    warn(0, 'of the prop at hand'),
    { ...warn(2, 'stops the bake'), severity: 'stop' as const },
  ];
  const { getAllByRole, getByRole, user } = show(<Findings />, documentOf({ props }), undefined, {
    findings,
  });
  const texts = () => getAllByRole('listitem').map((item) => item.textContent);
  expect(texts()).toEqual(['stops the bake', 'of the prop at hand', 'b1', 'Show 3 more']);
  await user.click(getByRole('button', { name: 'Show 3 more' }));
  expect(texts()).toEqual(['stops the bake', 'of the prop at hand', 'b1', 'b2', 'b3', 'b4']);
});
