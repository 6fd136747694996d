const height = 130;

/** The discharge tool as it is wired: tip, resistors in a row, the part with the lamps, and the lead to the earthed side. */
export function ToolDrawing({ pieces, hasLamps }: { pieces: number; hasLamps: boolean }) {
  const shown = Math.min(pieces, 6);
  const width = 170 + shown * 62 + (hasLamps ? 130 : 0);
  const y = 40;
  const after = 60 + shown * 62;
  return (
    <svg
      id="discharge-tool"
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Discharge tool as it is wired: ${pieces} ${pieces === 1 ? 'resistor' : 'resistors in series'}${hasLamps ? ', two lamps back to back across a clamped part' : ''}`}
      className="w-full max-w-[560px]"
    >
      <g fill="none" stroke="var(--ink)" strokeWidth={2}>
        <path d={`M10 ${y}l14 -6v12zM24 ${y}H60`} fill="var(--ink)" />
        {Array.from({ length: shown }, (_, k) => (
          <g key={k}>
            <rect x={64 + k * 62} y={y - 9} width={46} height={18} />
            <path d={`M${60 + k * 62} ${y}h4M${110 + k * 62} ${y}h12`} />
          </g>
        ))}
        <path d={`M${after} ${y}H${width - 40}`} />
        {hasLamps && (
          <>
            <rect x={after + 38} y={y - 9} width={46} height={18} fill="var(--ground)" />
            <path d={`M${after + 16} ${y}v62h24M${after + 106} ${y}v62h-24`} />
            <path
              d={`M${after + 40} ${y + 54}l14 8l-14 8zM${after + 54} ${y + 54}v16M${after + 54} ${y + 62}h8M${after + 82} ${y + 54}l-14 8l14 8zM${after + 68} ${y + 54}v16M${after + 62} ${y + 62}h6`}
            />
            <path d={`M${after + 16} ${y + 30}h26M${after + 106} ${y + 30}h-26`} />
            <path
              d={`M${after + 42} ${y + 22}l12 8l-12 8zM${after + 54} ${y + 20}l-3 3v14l3 3M${after + 80} ${y + 22}l-12 8l12 8zM${after + 68} ${y + 20}l3 3v14l-3 3M${after + 54} ${y + 30}h14`}
            />
          </>
        )}
        <path d={`M${width - 40} ${y}h16v52M${width - 36} ${y + 52}h24M${width - 32} ${y + 58}h16M${width - 28} ${y + 64}h8`} />
      </g>
      <g fontSize={12} fill="var(--ink)">
        <text x={10} y={y - 16}>
          tip
        </text>
        <text x={66} y={y - 16}>
          {pieces > shown ? `${pieces} in all` : ''}
        </text>
        {hasLamps && (
          <text x={after + 20} y={y + 88}>
            lamps under a clamp
          </text>
        )}
      </g>
    </svg>
  );
}
