package mandala.server.demo;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.demo.DemoUse;
import mandala.demo.Larkmoor;
import mandala.document.HeldReader;
import mandala.server.model.LiveModel;
import mandala.server.reconcile.SystemSetup;
import mandala.server.use.UseSetup;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * Loads half a year of use into a demo that has none yet, connects a system, and begins reviews.
 */
@Component
class DemoUseLoader {

  private static final Logger LOG = LoggerFactory.getLogger(DemoUseLoader.class);

  /** What each of the trust's systems reports, by the first part of permissions. */
  private static final Map<String, Set<String>> SYSTEMS =
      Map.of(
          "collection",
          Set.of("object", "loan", "desk", "exhibition", "programme", "treatment", "studio"),
          "doors",
          Set.of("room", "strongroom", "building"),
          "office",
          Set.of("ledger", "gift", "purchasing", "order", "payroll", "pay-run", "archive", "visit"),
          "climate",
          Set.of("probe"));

  private static final Map<String, String> NAMES =
      Map.of(
          "collection", "Collection system",
          "doors", "Doors and keys",
          "office", "Back office",
          "climate", "Climate loggers");

  /** Since how many days the climate loggers report: not over a whole window. */
  private static final int CLIMATE_DAYS = 90;

  private final boolean wanted;
  private final LiveModel model;
  private final UseSetup use;
  private final SystemSetup systems;
  private final DemoReviews reviews;
  private final Clock clock;

  DemoUseLoader(
      @Value("${mandala.demo-use}") boolean wanted,
      LiveModel model,
      UseSetup use,
      SystemSetup systems,
      DemoReviews reviews,
      Clock clock) {
    this.systems = systems;
    this.reviews = reviews;
    this.wanted = wanted;
    this.model = model;
    this.use = use;
    this.clock = clock;
  }

  /** Loads it, where the model is the demo's and there is none. */
  void load() {
    LiveModel.State state = model.state();
    if (!wanted || !state.demo() || !use.isEmpty()) {
      return;
    }
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    Catalogue catalogue = state.engine().catalogue();
    AccountKey trust = new AccountKey("larkmoor");
    LocalDate since = today.minusDays(DemoUse.DAYS);
    SYSTEMS.forEach((key, areas) ->
        use.source(
            key,
            NAMES.getOrDefault(key, key),
            trust,
            permissions(areas, catalogue),
            key.equals("climate") ? today.minusDays(CLIMATE_DAYS) : since));
    List<UseRecord> records = DemoUse.before(catalogue.model(), today);
    try {
      use.take(records, catalogue, since);
      connect(state);
      reviews.load(state);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    LOG.info("Loaded half a year of the demo's use: {} records", records.size());
  }

  /** The loans desk of Quillhaven has a system of its own. */
  private void connect(LiveModel.State state) throws IOException {
    systems.connect(
        "loans-desk",
        "Loans desk at Quillhaven",
        new AccountKey("quillhaven"),
        new HeldReader.Columns("user", "level", "site"),
        "ilse.varga",
        table("loans-desk-terms.csv"),
        table("loans-desk-held.csv"),
        state);
  }

  private static byte[] table(String name) throws IOException {
    try (InputStream in = Objects.requireNonNull(Larkmoor.class.getResourceAsStream(name), name)) {
      return in.readAllBytes();
    }
  }

  private static List<PermissionKey> permissions(Set<String> areas, Catalogue catalogue) {
    return catalogue.permissions().keySet().stream()
        .filter(it -> areas.contains(it.value().split("\\.", 2)[0]))
        .toList();
  }
}
