import { useContext } from 'react';
import { ShotContext } from '../shot/context';
import { fromPointer, merge } from '../state/document';
import { Button } from '../ui/controls';

/** What would make the bake disappoint, each with a remedy where there is one; or only what is said of a part of the document. */
export function Findings({ of = '' }: { of?: string }) {
  const { findings, handle } = useContext(ShotContext);
  const shown = findings.filter((finding) => finding.pointer.startsWith(of));
  if (shown.length === 0) return null;
  return (
    <ul className="mb-3 space-y-2" aria-label="Checks">
      {shown.map((finding) => (
        <li
          key={finding.pointer + finding.text}
          className={`rounded-md border p-2 ${finding.severity === 'stop' ? 'border-error' : 'border-warn'}`}
        >
          <p>{finding.text}</p>
          {finding.remedy ? (
            <Button
              className="mt-1.5"
              onClick={() => {
                const remedy = finding.remedy;
                if (remedy) handle.edit((doc) => merge(doc, fromPointer(remedy.pointer), remedy.value));
              }}
            >
              {finding.remedy.label}
            </Button>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
