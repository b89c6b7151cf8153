import { fireEvent, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { nameOf, propOf, sourceFor } from '../../resources/ts/api/files';
import type { Finding } from '../../resources/ts/api/types';
import { DroppedFiles } from '../../resources/ts/shot/DroppedFiles';
import { below, Findings } from '../../resources/ts/stages/Findings';
import { useView } from '../../resources/ts/state/view';
import { documentOf, show } from './harness';

const file = (name: string) => new File(['v 0 0 0'], name);

/** A server that keeps what it is given, or says that it cannot read it. */
function server(status = 201) {
  return vi.spyOn(globalThis, 'fetch').mockImplementation((_, init) => {
    const name = ((init?.body as FormData).get('file') as File).name;
    const body = status < 400 ? { asset: 'abc', name } : { title: 'No', detail: `${name} has no faces.` };
    return Promise.resolve(new Response(JSON.stringify(body), { status }));
  });
}

const drop = (element: Element, ...files: File[]) =>
  fireEvent.drop(element, { dataTransfer: { types: ['Files'], files } });

describe('a file that is brought in', () => {
  it('is a source by how its name ends', () => {
    expect(sourceFor('Mill_wheel.OBJ')).toEqual({ source: 'file', kind: 'mesh' });
    expect(sourceFor('sign.svg')).toEqual({ source: 'art', kind: 'art' });
    expect(sourceFor('notes.txt')).toBeNull();
    expect(sourceFor('obj')).toBeNull();
  });

  it('gives its prop a name', () => {
    expect(nameOf('mill_wheel-2.obj')).toBe('Mill wheel 2');
    expect(nameOf('.obj')).toBe('Prop');
    expect(nameOf(`${'x'.repeat(200)}.obj`)).toHaveLength(80);
  });

  it('becomes a prop with an id of its own', async () => {
    server();
    const prop = await propOf(file('mill.glb'), ['mill']);
    expect(prop).toMatchObject({
      id: 'mill-2',
      name: 'Mill',
      source: { kind: 'file', file: { asset: 'abc', fileName: 'mill.glb' } },
    });
    await expect(propOf(file('notes.txt'), [])).rejects.toThrow('obj, stl, ply, glb');
  });

  it('can be dropped on the picture; what cannot be read is said, the rest comes in', async () => {
    server();
    const { getByTestId, getByText, queryByText, seen } = show(
      <DroppedFiles>picture</DroppedFiles>,
      documentOf(),
    );
    const area = getByTestId('drop-area');
    fireEvent.dragOver(area, { dataTransfer: { types: ['Files'] } });
    getByText(/becomes a prop/);
    drop(area, file('notes.txt'), file('mill.obj'), file('sign.svg'));
    expect(queryByText(/becomes a prop/)).toBeNull();
    await waitFor(() => expect(seen.document.props.map((prop) => prop.name)).toEqual(['A', 'Mill', 'Sign']));
    expect(useView.getState()).toMatchObject({ propId: 'sign', stage: 'prop' });
    expect(useView.getState().notices.map((notice) => notice.title)).toEqual([
      'notes.txt was not brought in',
    ]);
  });

  it('changes nothing when the server cannot read it', async () => {
    server(422);
    const { getByTestId, seen } = show(<DroppedFiles>picture</DroppedFiles>, documentOf());
    drop(getByTestId('drop-area'), file('mill.obj'));
    await waitFor(() => expect(useView.getState().notices[0]?.detail).toBe('mill.obj has no faces.'));
    expect(seen.edits).toBe(0);
  });
});

describe('what is found', () => {
  it('is said where it belongs, and its remedy is a press', async () => {
    const findings: Finding[] = [
      {
        severity: 'warn',
        pointer: '/props/0/source/file/units',
        text: 'Is the file in centimetres?',
        remedy: { label: 'It is', pointer: '/props/0/source/file/units', value: 'cm' },
      },
      { severity: 'stop', pointer: '/props', text: 'The shot is empty.', remedy: null },
    ];
    const { user, getByRole, queryByText, seen } = show(
      <Findings which={below('/props/0/source')} />,
      documentOf({ props: [{ source: { kind: 'file', file: { units: 'm' } } }] }),
      undefined,
      { findings },
    );
    expect(queryByText('The shot is empty.')).toBeNull();
    await user.click(getByRole('button', { name: 'It is' }));
    expect(seen.document.props[0]?.source).toMatchObject({ file: { units: 'cm' } });
  });
});
