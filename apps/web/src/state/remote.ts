import useSWR from 'swr';
import type { AssemblyRow, BuildRow, MapFindings, PackRow, ProjectCard } from '@yesca/contract';
import type { Material, Picture, Prop } from '@yesca/stock';
import { useLibrary } from './library.ts';
import { get } from '../api/client.ts';

export const useProjects = () => useSWR('/api/projects', get<ProjectCard[]>);
export const useAssemblies = () => useSWR('/api/assemblies', get<AssemblyRow[]>);
export const usePacks = () => useSWR('/api/packs', get<PackRow[]>);

/** Asks the server for all materials and keeps them for the page's commands and panes. */
export const useMaterials = () =>
  useSWR('/api/stock/materials', get<Material[]>, {
    revalidateOnFocus: false,
    onSuccess: (all) => useLibrary.getState().setMaterials(all),
  });
/** Asks the server for all props and keeps them for the page. */
export const useProps = () =>
  useSWR('/api/stock/props', get<Prop[]>, {
    revalidateOnFocus: false,
    onSuccess: (all) => useLibrary.getState().setProps(all),
  });
/** What is wrong with a map as it is saved. The server checks one map after the other. */
export const useFindings = (mapId: string) =>
  useSWR(`/api/maps/${mapId}/findings`, get<MapFindings>, { revalidateOnFocus: false });
export const useBuilds = (mapId: string) => useSWR(`/api/maps/${mapId}/builds`, get<BuildRow[]>);

/** Where a prop's model and its small picture lie: another address when another model came in under the same name. */
export function propUrl(name: string, type: 'glb' | 'webp'): string {
  const content = useLibrary.getState().props.get(name)?.content;
  return `/stock/props/${name}.${type}${content ? `?v=${content}` : ''}`;
}

/** Where a material's picture lies: another address when another picture came in under the same name. */
export function pictureUrl(name: string, picture: Picture): string {
  const content = useLibrary.getState().materials.get(name)?.content;
  return `/stock/pictures/${name}/${picture}${content ? `?v=${content}` : ''}`;
}
