import Box from '@mui/material/Box';
import { GraphChart } from 'echarts/charts';
import { AriaComponent, GridComponent } from 'echarts/components';
import { init, use as register, type EChartsCoreOption } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

register([GraphChart, AriaComponent, GridComponent, SVGRenderer]);

/** A chart that follows its option and its width. */
export function EChart({ option, height, label }: { option: EChartsCoreOption; height: number; label: string }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const chart = init(box.current, undefined, { renderer: 'svg' });
    chart.setOption(option);
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(box.current!);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [option]);
  return <Box ref={box} role="img" aria-label={label} sx={{ height }} />;
}
