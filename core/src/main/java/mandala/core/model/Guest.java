package mandala.core.model;

/** Makes a principal of one account a guest of another. */
public record Guest(
    About about,
    Key.Principal principal,
    Key.Account account,
    boolean withSubaccounts,
    Window window)
    implements Thing {}
