package mandala.server.reconcile;

import mandala.core.model.key.AccountKey;
import mandala.document.HeldReader;
import org.jspecify.annotations.Nullable;

/**
 * A system whose holdings are compared with the model.
 *
 * @param account to which it belongs: whoever may assign access there changes it
 * @param columns which columns of its tables have what
 * @param terms version of its terms that counts; null before the first
 */
record ConnectedSystem(
    String key,
    String name,
    AccountKey account,
    HeldReader.Columns columns,
    @Nullable Integer terms) {}
