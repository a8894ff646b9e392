package mandala.server.reconcile;

import java.time.Clock;
import mandala.core.model.key.AccountKey;
import mandala.document.HeldReader;
import mandala.server.model.LiveModel;
import org.springframework.stereotype.Service;

/** Connects systems without anybody at a screen: of the demo. */
@Service
public class SystemSetup {

  private final SystemStore store;
  private final Comparer comparer;
  private final Clock clock;

  SystemSetup(SystemStore store, Comparer comparer, Clock clock) {
    this.store = store;
    this.comparer = comparer;
    this.clock = clock;
  }

  /**
   * Connects a system, with terms in force, and compares what it holds.
   *
   * @param by key of who made and tried the terms
   * @param terms table of what its terms mean
   * @param held table of what it holds
   * @throws mandala.server.platform.Problem if either has faults
   */
  public void connect(
      String key,
      String name,
      AccountKey account,
      HeldReader.Columns columns,
      String by,
      byte[] terms,
      byte[] held,
      LiveModel.State state) {
    store.keep(new ConnectedSystem(key, name, account, columns, null));
    int version = store.addTerms(key, terms, by, clock.instant());
    store.tried(key, version, clock.instant());
    store.use(key, version);
    comparer.compare(
        new ConnectedSystem(key, name, account, columns, version),
        version,
        held,
        true,
        by,
        state,
        (_, _) -> {});
  }
}
