/** Stands for what Vite gives the address of. */
export default '/assets/a-file';
