import { useContext } from 'react';
import type { Finding } from '../api/types';
import { ShotContext } from '../shot/context';
import { fromPointer, merge } from '../state/document';
import { Button } from '../ui/controls';

/** What would make the bake disappoint, each with a remedy where there is one; or only some of it. */
export function Findings({ which = () => true }: { which?: (finding: Finding) => boolean }) {
  const { findings, handle } = useContext(ShotContext);
  const shown = findings.filter(which);
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

/** What stands at a place of the document or below it. */
export const below =
  (place: string) =>
  ({ pointer }: Finding): boolean =>
    pointer === place || pointer.startsWith(`${place}/`);
