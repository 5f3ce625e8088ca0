import { ALL_LANES, laneName } from '@ordle/core';
import { Select } from '@/ui';

interface LaneSelectProps {
  label: string;
  value: string;
  setting: string;
  /** Lanes that hold points, offered first. */
  used: readonly string[];
  disabled: boolean;
  onChange(lane: string): void;
}

/** A choice among all lanes, those with points first. */
export function LaneSelect({ label, value, setting, used, disabled, onChange }: LaneSelectProps) {
  const option = (lane: string) => (
    <option key={lane} value={lane}>
      {laneName(lane)}
    </option>
  );
  return (
    <Select
      label={label}
      setting={setting}
      value={value}
      disabled={disabled}
      className="w-full"
      onChange={onChange}
    >
      {used.length > 0 && <optgroup label="in this part">{used.map(option)}</optgroup>}
      <optgroup label="all">{ALL_LANES.filter((lane) => !used.includes(lane)).map(option)}</optgroup>
    </Select>
  );
}
