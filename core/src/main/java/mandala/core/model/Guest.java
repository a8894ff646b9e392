package mandala.core.model;

import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;

/**
 * Makes a principal of one account a guest of another.
 *
 * @param sponsor a person who answers for it (section 10), or null
 */
public record Guest(
    About about,
    PrincipalKey principal,
    AccountKey account,
    boolean withSubaccounts,
    Window window,
    @Nullable PrincipalKey sponsor)
    implements Thing {}
