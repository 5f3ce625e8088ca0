/** Our small set of controls. */
export * from './Button';
export * from './Check';
export * from './ContextMenu';
export * from './Dialog';
export * from './isTyping';
export * from './Menu';
export * from './LabelledRow';
export * from './mixed';
export * from './NameField';
export * from './NumberField';
export * from './Segmented';
export * from './Select';
export * from './SliderField';
export * from './TextField';
export * from './TypedField';
export * from './useWidthOf';
