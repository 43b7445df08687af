import { Box, Stack } from '@mui/material';
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import { useEngine, useReport } from '../engine/EngineContext';
import { showAmount } from '../fields/amount';
import { usePiece } from '../store/store';
import { COLOURS, MONO } from '../ui/theme';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
);
Chart.defaults.color = COLOURS.faint;
Chart.defaults.borderColor = COLOURS.line;
Chart.defaults.font.size = 11;

/** Points of the alive curve. */
const HISTORY = 120;
const EVERY = 250;

/** Cost and content of the piece: particles alive over time, milliseconds by stage, memory. */
export default function Meters() {
  const engine = useEngine();
  const { swarms } = usePiece();
  const alive = useRef<HTMLCanvasElement>(null);
  const stages = useRef<HTMLCanvasElement>(null);
  const memory = useReport((r) => Math.round((r?.memoryBytes ?? 0) / 2 ** 20));
  const count = useReport((r) => r?.alive ?? 0);

  useEffect(() => {
    const empty = new Array<number | null>(HISTORY).fill(null);
    const curve = new Chart(alive.current!, {
      type: 'line',
      data: {
        labels: empty.map(() => ''),
        datasets: [
          {
            data: [...empty],
            borderColor: COLOURS.glass,
            backgroundColor: `${COLOURS.glass}22`,
            fill: true,
            pointRadius: 0,
            borderWidth: 1.5,
          },
        ],
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        scales: { x: { display: false }, y: { beginAtZero: true } },
      },
    });
    const bars = new Chart(stages.current!, {
      type: 'bar',
      data: {
        labels: [] as string[],
        datasets: [{ data: [] as number[], backgroundColor: COLOURS.amber, barThickness: 12 }],
      },
      options: {
        animation: false,
        indexAxis: 'y',
        responsive: true,
        maintainAspectRatio: false,
        scales: {
          x: { beginAtZero: true, title: { display: true, text: 'milliseconds' } },
          y: { ticks: { autoSkip: false } },
        },
      },
    });
    const timer = setInterval(() => {
      const { report } = engine;
      if (!report) return;
      const data = curve.data.datasets[0]!.data;
      data.push(report.alive);
      data.shift();
      curve.update('none');
      bars.data.labels = Object.keys(report.times);
      bars.data.datasets[0]!.data = Object.values(report.times);
      bars.update('none');
    }, EVERY);
    return () => {
      clearInterval(timer);
      curve.destroy();
      bars.destroy();
    };
  }, [engine]);

  return (
    <Stack direction="row" sx={{ height: '100%', px: 2, py: 1, gap: 3 }}>
      <Box sx={{ minWidth: 150, fontSize: 12.5 }}>
        <Box sx={{ color: COLOURS.faint }}>Alive now</Box>
        <Box sx={{ fontFamily: MONO, fontSize: 18, color: COLOURS.glass }}>
          {showAmount(count, true)}
        </Box>
        {swarms.map((s) => (
          <AliveOf key={s.id} id={s.id} name={s.name} />
        ))}
        <Box sx={{ color: COLOURS.faint, mt: 0.5 }}>
          Memory <span style={{ fontFamily: MONO, color: COLOURS.text }}>{memory} MB</span>
        </Box>
      </Box>
      <Box sx={{ flex: 1, minWidth: 0, position: 'relative' }}>
        <canvas ref={alive} role="img" aria-label="Particles alive over time" />
      </Box>
      <Box sx={{ flex: 1, minWidth: 0, position: 'relative' }}>
        <canvas ref={stages} role="img" aria-label="Milliseconds by stage" />
      </Box>
    </Stack>
  );
}

function AliveOf({ id, name }: { id: string; name: string }) {
  const count = useReport((r) => r?.aliveBy[id] ?? 0);
  return (
    <Stack direction="row" sx={{ justifyContent: 'space-between', gap: 1 }}>
      <span>{name}</span>
      <span style={{ fontFamily: MONO }}>{showAmount(count, true)}</span>
    </Stack>
  );
}
