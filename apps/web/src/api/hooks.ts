import useSWR from 'swr';
import type { BuildRow, ProjectCard } from '@yesca/contract';
import type { Material } from '@yesca/stock';
import { get } from './client.ts';

export const useProjects = () => useSWR('/api/projects', get<ProjectCard[]>);
export const useMaterials = () => useSWR('/api/stock/materials', get<Material[]>, { revalidateOnFocus: false });
export const useBuilds = (mapId: string) => useSWR(`/api/maps/${mapId}/builds`, get<BuildRow[]>);

export const materialUrl = (name: string): string => `/stock/materials/${name}.png`;
