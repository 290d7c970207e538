import Typography from '@mui/material/Typography';
import { useTheme } from '@mui/material/styles';
import { useMemo } from 'react';
import { anglesOf } from '../../../core/panorama/camera.ts';
import type { StitchReport } from '../../../engine/stitchReport.ts';
import { EChart } from './EChart.tsx';

const HEIGHT_PX = 96;
const MAX_WIDTH = 8;

/** Angles that are nearly the same lie on one line. */
const NARROWEST_RAD = 0.3;

function rangeOf(values: readonly number[]): { min: number; max: number } {
  const [min, max] = [Math.min(...values), Math.max(...values)];
  const half = Math.max(NARROWEST_RAD, max - min) / 2;
  return { min: (min + max) / 2 - half, max: (min + max) / 2 + half };
}

/** Which frames overlap, placed as they were taken; the stronger the match, the thicker the line between. */
export function OverlapGraph({ report }: { report: StitchReport }) {
  const { palette } = useTheme();
  const option = useMemo(() => {
    const strongest = Math.max(1, ...report.overlaps.map(({ agreeing }) => agreeing));
    const places = report.order.map((frame) => {
      const { yaw, pitch } = anglesOf(report.frames[frame]!.rotation!);
      return { frame, yaw, pitch };
    });
    return {
      animation: false,
      grid: { left: 20, right: 20, top: 20, bottom: 20 },
      xAxis: { show: false, ...rangeOf(places.map(({ yaw }) => yaw)) },
      yAxis: { show: false, ...rangeOf(places.map(({ pitch }) => pitch)) },
      series: [
        {
          type: 'graph',
          coordinateSystem: 'cartesian2d',
          silent: true,
          symbolSize: 26,
          itemStyle: { color: palette.background.paper, borderColor: palette.text.primary, borderWidth: 1.5 },
          label: { show: true, color: palette.text.primary, fontFamily: 'Red Hat Mono Variable' },
          data: places.map(({ frame, yaw, pitch }) => ({ name: String(frame + 1), value: [yaw, pitch] })),
          links: report.overlaps.map(({ a, b, agreeing }) => ({
            source: String(a + 1),
            target: String(b + 1),
            lineStyle: { color: palette.text.secondary, width: 1 + (MAX_WIDTH * agreeing) / strongest, opacity: 1 },
          })),
        },
      ],
    };
  }, [report, palette]);
  return (
    <>
      <EChart option={option} height={HEIGHT_PX} label={`${report.order.length} frames and their overlaps`} />
      {report.overlaps.map(({ a, b, agreeing, compared }) => (
        <Typography key={`${a} ${b}`} variant="caption" color="text.secondary" sx={{ display: 'block' }}>
          {a + 1} and {b + 1}: {agreeing} of {compared} points agree
        </Typography>
      ))}
    </>
  );
}
