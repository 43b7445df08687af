import { Box, ButtonBase, IconButton } from '@mui/material';
import { Download, Trash2 } from 'lucide-react';
import type { PartList } from '@vast-swarm/core/piece';
import { library, type StoredRecipe } from '../data/db';
import { useLive } from '../data/useLive';
import { COLOURS } from '../ui/theme';
import { useBlobSource } from '../ui/useBlobSource';
import { putParts } from './copied';
import { exportRecipe, recipeOf, SHIPPED, type Recipe } from './recipes';

const newestFirst = (): Promise<StoredRecipe[]> =>
  library.recipes.orderBy('made').reverse().toArray();
const NONE: StoredRecipe[] = [];

interface Props {
  list: PartList;
  search: string;
  /** Is told when one was put in. */
  onPut: () => void;
}

/** Recipes whose parts belong to a list: one's own, then those that are shipped. */
export function RecipeDrawer({ list, search, onPut }: Props) {
  const own = useLive(newestFirst, NONE).map(recipeOf);
  const found = [...own, ...SHIPPED].filter(
    (r) => r.list === list && r.name.toLowerCase().includes(search.toLowerCase()),
  );
  if (found.length === 0) return null;
  return (
    <Box component="section" aria-label="Recipes" sx={{ px: 2, pb: 1.5 }}>
      <Box sx={{ color: COLOURS.faint, fontSize: 11.5, py: 0.75 }}>Recipes</Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        {found.map((recipe) => (
          <Card key={recipe.id} recipe={recipe} onPut={onPut} />
        ))}
      </Box>
    </Box>
  );
}

const CARD = {
  display: 'block',
  width: '100%',
  aspectRatio: '16 / 9',
  bgcolor: '#060b0c',
  border: `1px solid ${COLOURS.line}`,
  borderRadius: 0.5,
  overflow: 'hidden',
  '&:hover, &:focus-visible': { borderColor: COLOURS.amber },
};
const NAME = {
  flex: 1,
  overflow: 'hidden',
  textOverflow: 'ellipsis',
  whiteSpace: 'nowrap',
} as const;

function Card({ recipe, onPut }: { recipe: Recipe; onPut: () => void }) {
  const { id, name, picture, shipped } = recipe;
  const own = useBlobSource(picture && 'blob' in picture ? picture.blob : undefined);
  const url = picture && 'url' in picture ? picture.url : undefined;
  return (
    <div>
      <ButtonBase
        aria-label={`Put in ${name}`}
        onClick={() => {
          putParts(recipe.parts);
          onPut();
        }}
        sx={CARD}
      >
        {picture && (
          <img
            key={url ?? 'own'}
            ref={own}
            src={url}
            alt=""
            style={{ width: '100%', height: '100%', objectFit: 'cover', display: 'block' }}
          />
        )}
      </ButtonBase>
      <div style={{ display: 'flex', alignItems: 'center', fontSize: 12.5 }}>
        <span style={NAME}>{name}</span>
        <IconButton
          aria-label={`Export the recipe ${name}`}
          onClick={() => void exportRecipe(recipe)}
          sx={{ p: '2px' }}
        >
          <Download size={12} />
        </IconButton>
        {!shipped && (
          <IconButton
            aria-label={`Delete the recipe ${name}`}
            onClick={() => void library.recipes.delete(id)}
            sx={{ p: '2px' }}
          >
            <Trash2 size={12} />
          </IconButton>
        )}
      </div>
    </div>
  );
}
