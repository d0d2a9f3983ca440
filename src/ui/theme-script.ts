/** Sets the theme before the first paint; a constant, so that the page's policy can name its hash. */
export const themeScript = `try{var t=localStorage.getItem('vast-stone-theme');if(t==='basalt')document.documentElement.dataset.theme=t}catch{}`;
