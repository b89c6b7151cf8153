import { fireEvent, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { byNumber, missing } from '../../resources/ts/fields/numbered';
import { PicturesField } from '../../resources/ts/fields/PicturesField';
import { fieldAt } from '../../resources/ts/api/schema';
import { documentOf, show } from './harness';

const path = ['props', 0, 'weight', 'stack', 0, 'picture', 'pictures'];

/** A server that reads all pictures but those called bad. */
function server() {
  return vi.spyOn(globalThis, 'fetch').mockImplementation((_, init) => {
    const { name } = (init?.body as FormData).get('file') as File;
    const bad = name.startsWith('bad');
    const body = bad
      ? { title: 'No', detail: 'The picture is damaged.' }
      : { asset: name.replace(/\D/g, '').padStart(64, '0'), name };
    return Promise.resolve(new Response(JSON.stringify(body), { status: bad ? 422 : 201 }));
  });
}

function shown(value: unknown[] = []) {
  const onChange = vi.fn();
  const made = show(
    <PicturesField id="pictures" path={path} field={fieldAt(path)} value={value} onChange={onChange} />,
    documentOf(),
  );
  const choose = (...names: string[]) =>
    fireEvent.change(made.getByTestId('pictures-file'), {
      target: { files: names.map((name) => new File(['p'], name)) },
    });
  return { ...made, onChange, choose };
}

describe('numbered pictures', () => {
  it('go by the last number in their names', () => {
    expect(byNumber(['p10.png', 'p9.png', 'p1.png', 'key.png'], String)).toEqual([
      'key.png',
      'p1.png',
      'p9.png',
      'p10.png',
    ]);
    expect(byNumber(['take2.0002.png', 'take2.0001.png'], String)).toEqual([
      'take2.0001.png',
      'take2.0002.png',
    ]);
    expect(missing(['a1.png', 'a2.png', 'a5.png'])).toBe(2);
    expect(missing(['a1.png', 'key.png'])).toBe(0);
  });

  it('are brought in all at once, in their order', async () => {
    server();
    const { choose, onChange } = shown();
    choose('p10.png', 'p9.png');
    await waitFor(() => expect(onChange).toHaveBeenCalledTimes(1));
    const [pictures] = onChange.mock.calls[0] as [{ fileName: string }[]];
    expect(pictures.map(({ fileName }) => fileName)).toEqual(['p9.png', 'p10.png']);
  });

  it('change nothing when one of them cannot be read', async () => {
    server();
    const { choose, onChange, getByTestId } = shown();
    choose('p1.png', 'bad2.png');
    await waitFor(() => expect(getByTestId('upload-problem').textContent).toMatch(/^bad2.png: .*damaged/));
    expect(onChange).not.toHaveBeenCalled();
  });

  it('say which they are, and what is missing', () => {
    const { getByTestId, getByText, getByRole, onChange } = shown([
      { asset: 'a', fileName: 'p1.png' },
      { asset: 'b', fileName: 'p3.png' },
    ]);
    expect(getByTestId('numbered').textContent).toBe('2 pictures: p1.png to p3.png');
    getByText(/A number is missing/);
    fireEvent.click(getByRole('button', { name: 'Remove' }));
    expect(onChange).toHaveBeenCalledWith([]);
  });
});
