import type { FieldSchema } from '../api/schema';
import type { Path } from '../state/document';

/** What a control is given: where its value stands, what it is, and a way to change it. */
export interface ControlProps {
  id: string;
  path: Path;
  field: FieldSchema;
  value: unknown;
  onChange: (value: unknown) => void;
}
