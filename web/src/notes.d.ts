declare module "*.md?note" {
  const note: { title: string; sections: { id: string; heading: string; html: string }[] };
  export default note;
}
