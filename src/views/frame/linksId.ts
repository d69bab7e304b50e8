/** The id of the list of links that hangs from the top line at every station. */
export const linksId = "links-of-boards";
