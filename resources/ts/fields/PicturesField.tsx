import { Upload as UploadIcon, X } from 'lucide-react';
import { useId, useRef, useState } from 'react';
import { ProblemError } from '../api/client';
import { FILES, sendFile } from '../api/files';
import { Button } from '../ui/controls';
import { DropBox } from '../ui/DropBox';
import type { ControlProps } from './control';
import { byNumber, missing } from './numbered';

interface Picture {
  asset: string;
  fileName: string;
}

/** Numbered pictures, brought in all at once; what is there stays until all of them have been read. */
export function PicturesField({ path, field, value, onChange }: ControlProps) {
  const pictures = value as Picture[];
  const [read, setRead] = useState<[number, number] | null>(null);
  const [problem, setProblem] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const bring = async (files: File[]) => {
    const most = field.maxItems ?? Infinity;
    if (files.length > most) {
      setProblem(
        `${files.length} pictures are too many: at most ${most}. Choose fewer, and more frames a picture.`,
      );
      return;
    }
    setProblem('');
    const sorted = byNumber(files, (file) => file.name);
    const brought: Picture[] = [];
    try {
      for (const file of sorted) {
        setRead([brought.length, sorted.length]);
        const { asset, name } = await sendFile('picture', file);
        brought.push({ asset, fileName: name });
      }
      onChange(brought);
    } catch (error) {
      setProblem(
        `${sorted[brought.length]?.name}: ${error instanceof ProblemError ? error.message : String(error)} Nothing was changed.`,
      );
    } finally {
      setRead(null);
      if (input.current) input.current.value = '';
    }
  };
  const [first, last] = [pictures[0], pictures[pictures.length - 1]];
  const gaps = missing(pictures.map(({ fileName }) => fileName));
  return (
    <div className="py-1" data-field={path.join('/')}>
      <p title={field.description}>{field.title}</p>
      <DropBox onFiles={(files) => void bring(files)}>
        {first && last ? (
          <>
            <p className="mb-2 break-all" data-testid="numbered">
              {pictures.length === 1 ? '1 picture: ' : `${pictures.length} pictures: `}
              {first.fileName}
              {pictures.length > 1 ? ` to ${last.fileName}` : ''}
            </p>
            <div className="mb-2 flex gap-2">
              {[first, ...(pictures.length > 1 ? [last] : [])].map(({ asset }) => (
                <img
                  key={asset}
                  src={`/api/assets/${asset}`}
                  alt=""
                  className="max-h-20 max-w-[48%] rounded-sm border border-line"
                />
              ))}
            </div>
          </>
        ) : (
          <p className="mb-2">None yet. Choose all of them at once: PNG or JPEG.</p>
        )}
        {gaps > 0 ? (
          <p className="mb-2 text-warn">
            {gaps === 1 ? 'A number is' : `${gaps} numbers are`} missing among them: later pictures come that
            much sooner.
          </p>
        ) : null}
        <input
          ref={input}
          id={`pictures-file-${id}`}
          data-testid="pictures-file"
          type="file"
          multiple
          accept={FILES.picture.accept}
          className="sr-only"
          onChange={(event) => event.target.files?.length && void bring([...event.target.files])}
        />
        <div className="flex gap-2">
          <Button disabled={read !== null} onClick={() => input.current?.click()}>
            <UploadIcon size={14} />{' '}
            {read ? `Reading ${read[0] + 1} of ${read[1]} …` : first ? 'Replace' : 'Choose pictures'}
          </Button>
          {first ? (
            <Button onClick={() => onChange([])}>
              <X size={14} /> Remove
            </Button>
          ) : null}
        </div>
        {problem ? (
          <p role="alert" className="mt-2 text-error" data-testid="upload-problem">
            {problem}
          </p>
        ) : null}
      </DropBox>
    </div>
  );
}
