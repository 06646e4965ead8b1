'use client';
import { createContext, useContext, type ReactNode } from 'react';
import { COMPANY_DEFAULTS, type CompanyDefaults } from '@/core/company';

const Defaults = createContext<CompanyDefaults>(COMPANY_DEFAULTS);

/** What the organisation gives its members to begin with, wherever a screen offers it. */
export const useCompanyDefaults = (): CompanyDefaults => useContext(Defaults);

export const WithCompanyDefaults = ({ defaults, children }: { defaults: CompanyDefaults; children: ReactNode }) => (
  <Defaults.Provider value={defaults}>{children}</Defaults.Provider>
);
