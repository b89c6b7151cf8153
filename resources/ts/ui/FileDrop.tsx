import { Upload as UploadIcon } from 'lucide-react';
import { useId, useRef, useState } from 'react';
import { ProblemError } from '../api/client';
import { FILES, sendFile, type Brought, type FileKind } from '../api/files';
import { Button } from './controls';
import { DropBox } from './DropBox';

/** Chooses a file, or takes one that is dropped on it; the server reads it in full before anything changes. */
export function FileDrop({
  kind,
  name,
  asset,
  onFile,
}: {
  kind: FileKind;
  name: string;
  asset: string;
  onFile: (asset: string, name: string, brought: Brought) => void;
}) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState('');
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const words = FILES[kind];
  const send = async (file: File) => {
    setBusy(true);
    setProblem('');
    try {
      const answer = await sendFile(kind, file);
      onFile(answer.asset, answer.name, answer);
    } catch (error) {
      setProblem(error instanceof ProblemError ? error.message : String(error));
    } finally {
      setBusy(false);
      if (input.current) input.current.value = '';
    }
  };
  return (
    <DropBox onFiles={([file]) => void (file && send(file))}>
      <p className="mb-2 truncate">{name || words.none}</p>
      {kind === 'picture' && asset ? (
        <img src={`/api/assets/${asset}`} alt="" className="mb-2 max-h-24 rounded-sm border border-line" />
      ) : null}
      <input
        ref={input}
        id={`${kind}-file-${id}`}
        data-testid={`${kind}-file`}
        type="file"
        accept={words.accept}
        className="sr-only"
        onChange={(event) => event.target.files?.[0] && void send(event.target.files[0])}
      />
      <Button disabled={busy} onClick={() => input.current?.click()}>
        <UploadIcon size={14} />{' '}
        {busy ? 'Reading …' : asset ? `Replace the ${words.file}` : `Choose a ${words.file}`}
      </Button>
      {problem ? (
        <p role="alert" className="mt-2 text-error" data-testid="upload-problem">
          {problem}
        </p>
      ) : null}
    </DropBox>
  );
}
