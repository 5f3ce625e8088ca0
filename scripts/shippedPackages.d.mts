export interface ShippedPackage {
  name: string;
  version: string;
  license: string;
  folder: string;
}
export function shippedPackages(workspaces?: string[]): ShippedPackage[];
export function licenceTexts(packages: readonly ShippedPackage[]): string;
