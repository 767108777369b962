import useSWR from 'swr';
import type { BuildRow, PackRow, ProjectCard } from '@yesca/contract';
import type { Material, Picture } from '@yesca/stock';
import { useLibrary } from '../state/library.ts';
import { get } from './client.ts';

export const useProjects = () => useSWR('/api/projects', get<ProjectCard[]>);
export const usePacks = () => useSWR('/api/packs', get<PackRow[]>);

/** Asks the server for all materials and keeps them for the page's commands and panes. */
export const useMaterials = () =>
  useSWR('/api/stock/materials', get<Material[]>, {
    revalidateOnFocus: false,
    onSuccess: (all) => useLibrary.getState().setMaterials(all),
  });
export const useBuilds = (mapId: string) => useSWR(`/api/maps/${mapId}/builds`, get<BuildRow[]>);

export const pictureUrl = (name: string, picture: Picture): string => `/stock/pictures/${name}/${picture}`;
