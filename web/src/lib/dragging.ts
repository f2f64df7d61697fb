let dragging: () => boolean = () => false;

/** Whether a value is being dragged, so that what is computed now is shown for a moment only. */
export const isDragging = (): boolean => dragging();
/** Settles how that is known. */
export const tellDragging = (how: () => boolean): void => void (dragging = how);
