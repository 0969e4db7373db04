import { useQuery } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { answer, client, type GearLibrary, type Load } from "./client";

type Behaviours = Record<Exclude<NonNullable<Load["behaviour"]["kind"]>, "measured">, Load["behaviour"]>;

/** What every new part begins from: a plan opens once it is here, so that no choice comes to nothing. */
interface Library {
  /** Classes of gear to begin from, and parts before anything was read off them. */
  gear: GearLibrary;
  /** A load of each kind before anything was measured. */
  behaviours: Behaviours;
}

export function useLibraryQuery() {
  return useQuery({
    queryKey: ["gear and behaviours"],
    queryFn: async (): Promise<Library> => {
      const [gear, behaviours] = await Promise.all([
        answer(client.GET("/api/library/gear")),
        answer(client.GET("/api/library/behaviours")),
      ]);
      return { gear, behaviours: behaviours as Behaviours };
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
}

export const LibraryContext = createContext<Library | null>(null);

export function useLibrary(): Library {
  const library = useContext(LibraryContext);
  if (!library) throw new Error("outside a plan");
  return library;
}

/** The gear library: classes to begin from, and parts before anything was read off them. */
export const useGear = (): GearLibrary => useLibrary().gear;
