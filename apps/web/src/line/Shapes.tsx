import type { PathShape, Shape, TextPart, TextShape } from '@anchorbeat/drawing';
import type { ReactNode } from 'react';

/** Shapes of the line as SVG, in the colours of the place they stand in. */
export function Shapes({ shapes }: { readonly shapes: readonly Shape[] }): ReactNode {
  return shapes.map((shape, index) =>
    shape.kind === 'path' ? <DrawnPath key={index} {...shape} /> : <DrawnText key={index} {...shape} />,
  );
}

function DrawnPath({ d, fill, stroke, strokePx, opacity, dashPx, hasRoundEnds }: PathShape) {
  return (
    <path
      d={d}
      fill={fill ? `var(--${fill})` : 'none'}
      stroke={stroke && `var(--${stroke})`}
      strokeWidth={strokePx}
      opacity={opacity}
      strokeDasharray={dashPx?.join(' ')}
      strokeLinecap={hasRoundEnds ? 'round' : undefined}
    />
  );
}

function DrawnText({ parts, whole, ...shape }: TextShape) {
  const [first] = parts;
  const isPlain = parts.length === 1 && first && !first.isMusic && first.sizePx === undefined;
  const drawn = parts.map(({ text }) => text).join('');
  return (
    <text
      x={shape.x}
      y={shape.y}
      fontSize={shape.sizePx}
      fontWeight={shape.weight}
      fill={`var(--${shape.tone})`}
      fontFamily={shape.face === 'display' ? 'var(--font-display)' : undefined}
      fontStyle={shape.isItalic ? 'italic' : undefined}
      textAnchor={shape.anchor}
      {...(shape.haloPx && {
        stroke: 'var(--ground)',
        strokeWidth: shape.haloPx,
        paintOrder: 'stroke',
      })}
    >
      {isPlain ? first.text : parts.map((part, index) => <DrawnPart key={index} {...part} />)}
      {whole !== undefined && whole !== drawn && <title>{whole}</title>}
    </text>
  );
}

function DrawnPart({ text, isMusic, sizePx, dxPx, dyPx, tone, weight }: TextPart) {
  return (
    <tspan
      fontFamily={isMusic ? 'var(--font-music)' : undefined}
      fontSize={sizePx}
      dx={dxPx}
      dy={dyPx}
      fill={tone && `var(--${tone})`}
      fontWeight={weight}
    >
      {text}
    </tspan>
  );
}
