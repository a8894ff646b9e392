package mandala.core.model;

import mandala.core.model.key.AccountKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** An organisational unit; the units of an account form a forest. */
public record Unit(UnitKey key, About about, AccountKey account, @Nullable UnitKey parent)
    implements Thing {}
