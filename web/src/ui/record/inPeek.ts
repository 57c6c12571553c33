import { createContext, useContext } from 'react';

/** True within a peek, where the page is already named by its list and there is less room. */
export const InPeek = createContext(false);
export const useInPeek = (): boolean => useContext(InPeek);
