import { useQuery } from '@tanstack/react-query';
import type { OverviewView, StatusView } from '../../contract/overview.ts';
import { api } from './api.ts';
import { keyOf } from './keys.ts';

const STATUS_EVERY_MS = 3_000;

/** How the installation is, for the bottom line. */
export const useStatus = () =>
  useQuery({
    queryKey: keyOf('status'),
    queryFn: () => api.get<StatusView>('/status'),
    refetchInterval: STATUS_EVERY_MS,
  });

export const useOverview = () =>
  useQuery({
    queryKey: keyOf('overview'),
    queryFn: () => api.get<OverviewView>('/overview'),
    refetchInterval: 5_000,
  });
