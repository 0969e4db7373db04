import { useQuery } from "@tanstack/react-query";
import { answer, client, type GearLibrary } from "../../api/client";

/** The gear library: classes to begin from, and parts before anything was read off them. */
export function useGear(): GearLibrary | undefined {
  return useQuery({
    queryKey: ["gear"],
    queryFn: () => answer(client.GET("/api/library/gear")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
}
