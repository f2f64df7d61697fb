/** Radians in a degree: `degrees * RAD`. */
export const RAD = Math.PI / 180;
/** Degrees in a radian: `radians * DEG`. */
export const DEG = 180 / Math.PI;
