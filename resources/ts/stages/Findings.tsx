import { useContext, useState, type ReactNode } from 'react';
import type { Finding } from '../api/types';
import { ShotContext } from '../shot/context';
import { fromPointer, merge } from '../state/document';
import { Button } from '../ui/controls';

/** So many are shown before one asks for all: a shot of forty props has as many of a kind. */
const FEW = 3;

/** What would make the bake disappoint, each with a remedy where there is one; or only some of it. */
export function Findings({ which = () => true }: { which?: (finding: Finding) => boolean }) {
  const { findings, handle } = useContext(ShotContext);
  const shown = findings.filter(which);
  if (shown.length === 0) return null;
  return (
    <ul className="mb-3 space-y-2" aria-label="Checks">
      <Few findings={shown}>
        {(finding) => (
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
        )}
      </Few>
    </ul>
  );
}

/** The same in words alone. */
export function FindingTexts() {
  const { findings } = useContext(ShotContext);
  if (findings.length === 0) return null;
  return (
    <ul className="space-y-2 pt-2" aria-label="Checks">
      <Few findings={findings}>
        {(finding) => (
          <li
            key={finding.pointer + finding.text}
            className={finding.severity === 'stop' ? 'text-error' : 'text-warn'}
          >
            {finding.text}
          </li>
        )}
      </Few>
    </ul>
  );
}

/** What stops a bake first, then what concerns the prop at hand, then the others; a few of them, and all when asked for. */
function Few({ findings, children }: { findings: Finding[]; children: (finding: Finding) => ReactNode }) {
  const { propIndex } = useContext(ShotContext);
  const [all, setAll] = useState(false);
  const rank = (finding: Finding) =>
    (finding.severity === 'stop' ? 0 : 2) + (below(`/props/${propIndex}`)(finding) ? 0 : 1);
  const sorted = [...findings].sort((a, b) => rank(a) - rank(b));
  const more = all ? 0 : Math.max(0, sorted.length - FEW);
  return (
    <>
      {sorted.slice(0, sorted.length - more).map(children)}
      {more > 0 ? (
        <li>
          <Button look="quiet" onClick={() => setAll(true)}>
            Show {more} more
          </Button>
        </li>
      ) : null}
    </>
  );
}

/** What stands at a place of the document or below it. */
export const below =
  (place: string) =>
  ({ pointer }: Finding): boolean =>
    pointer === place || pointer.startsWith(`${place}/`);
