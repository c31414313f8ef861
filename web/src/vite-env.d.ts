declare module "@fontsource-variable/archivo/wdth.css";
declare module "*.css";
