import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { KindChoice } from '../../resources/ts/fields/Fields';
import { calledAs } from '../../resources/ts/state/propEdits';
import { documentOf, show, withProp } from './harness';

const choice = (
  <KindChoice base={['props', 0, 'source']} as="kind" then={(doc, kind) => calledAs(doc, 0, kind)} />
);

describe('the name of a prop', () => {
  it('goes along with what it is made as, as long as nobody has chosen one', async () => {
    const { user, seen } = show(choice, withProp(['name'], 'Box'));
    for (const kind of ['Sheet', 'Flat art (SVG, PNG)', 'Ball']) {
      await user.click(screen.getByRole('combobox'));
      await user.click(await screen.findByRole('option', { name: kind }));
      expect(seen.document.props[0]?.name).toBe(kind.replace(' (SVG, PNG)', ''));
    }
    expect(seen.document.props[0]?.source.kind).toBe('ball');
  });

  it('stays where somebody has chosen it', async () => {
    const { user, seen } = show(choice, withProp(['name'], 'Door'));
    await user.click(screen.getByRole('combobox'));
    await user.click(await screen.findByRole('option', { name: 'Sheet' }));
    expect(seen.document.props[0]).toMatchObject({ name: 'Door', source: { kind: 'sheet' } });
  });

  it('is no other one’s', () => {
    const [prop] = documentOf().props;
    const two = {
      ...documentOf(),
      props: [
        { ...prop, name: 'Box 2' },
        { ...prop, name: 'Sheet' },
      ],
    } as ReturnType<typeof documentOf>;
    expect(calledAs(two, 0, 'sheet').props.map(({ name }) => name)).toEqual(['Sheet 2', 'Sheet']);
  });
});
