import { FileDrop } from '../ui/FileDrop';
import type { ControlProps } from './control';

/** A picture that is brought in. */
export function PictureField({ path, field, value, onChange }: ControlProps) {
  const picture = value as { asset: string; fileName: string };
  return (
    <div className="py-1" data-field={path.join('/')}>
      <p title={field.description}>{field.title}</p>
      <FileDrop
        kind="picture"
        name={picture.fileName}
        asset={picture.asset}
        onFile={(asset, fileName) => onChange({ ...picture, asset, fileName })}
      />
    </div>
  );
}
