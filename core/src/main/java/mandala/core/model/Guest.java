package mandala.core.model;

import org.jspecify.annotations.Nullable;

/**
 * Makes a principal of one account a guest of another.
 *
 * @param sponsor a person who answers for it (section 10), or null
 */
public record Guest(
    About about,
    Key.Principal principal,
    Key.Account account,
    boolean withSubaccounts,
    Window window,
    Key.@Nullable Principal sponsor)
    implements Thing {}
