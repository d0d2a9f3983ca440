/** The looks, in the order in which the switch goes through them; the first is the one without a mark. */
export const themes = ['limestone', 'basalt', 'noon'] as const;
/** Sets the theme before the first paint; a constant, so that the page's policy can name its hash. */
export const themeScript = `try{var t=localStorage.getItem('vast-stone-theme');if(t==='basalt'||t==='noon')document.documentElement.dataset.theme=t}catch{}`;
