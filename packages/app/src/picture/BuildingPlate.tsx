import { Button, LinearProgress, Paper, Typography } from '@mui/material';
import { useEngine } from '../engine/EngineContext';
import { useApp } from '../store/store';

/** How far a change is that takes long to make ready, over the picture; it can be stopped. */
export function BuildingPlate() {
  const engine = useEngine();
  const building = useApp((s) => s.tools.building);
  if (!building) return null;
  const percent = Math.round(building.part * 100);
  return (
    <Paper
      role="group"
      aria-label="Building"
      elevation={4}
      sx={{
        position: 'absolute',
        top: 12,
        left: '50%',
        transform: 'translateX(-50%)',
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        py: 1,
        width: 420,
      }}
    >
      <div style={{ flex: 1, minWidth: 0 }}>
        <Typography variant="body2" noWrap title={building.name}>
          Building {building.name}: {percent} %
        </Typography>
        <LinearProgress variant="determinate" value={percent} aria-label="Built" />
      </div>
      <Button
        size="small"
        onClick={() => {
          engine.stopBuilding();
        }}
      >
        Stop
      </Button>
    </Paper>
  );
}
