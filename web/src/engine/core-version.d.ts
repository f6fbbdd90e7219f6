/** The version of the core this page goes with; set by the build. */
declare const __CORE_VERSION__: string;
