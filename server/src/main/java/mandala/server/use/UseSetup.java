package mandala.server.use;

import java.io.IOException;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.UseColumns;
import org.springframework.stereotype.Service;

/** Sets sources and use up without a caller: of a demo. */
@Service
public class UseSetup {

  private final UseSources sources;
  private final UseImport imports;

  UseSetup(UseSources sources, UseImport imports) {
    this.sources = sources;
    this.imports = imports;
  }

  /** {@return whether there is no source yet} */
  public boolean isEmpty() {
    return sources.all().isEmpty();
  }

  /** Adds a source that reports some permissions in an account and below. */
  public void source(
      String key,
      String name,
      AccountKey account,
      Collection<PermissionKey> permissions,
      LocalDate since) {
    sources.keep(
        new UseSource(
            0,
            key,
            name,
            account,
            Set.copyOf(permissions),
            Set.of(ResourceKey.of(account)),
            since,
            UseColumns.PLAIN));
  }

  /**
   * Takes records in as if each source had reported those of its permissions, Mandala those of its
   * own; others are dropped, and so is what the model does not know.
   *
   * @param since the first day that Mandala reported whole
   */
  public void take(List<UseRecord> records, Catalogue catalogue, LocalDate since)
      throws IOException {
    sources.ownSince(since);
    imports.takeOwn(
        UseSources.OWN_NUMBER,
        UseSources.OWN,
        "first",
        records.stream().filter(it -> it.permission().value().startsWith(Supplied.PREFIX)).toList(),
        catalogue);
    for (UseSource source : sources.all()) {
      Set<PermissionKey> reported = source.permissions();
      Predicate<UseRecord> its = it -> reported == null || reported.contains(it.permission());
      take(source, records.stream().filter(its).toList(), catalogue);
    }
  }

  /**
   * Takes records in as if one source had reported them; what the model does not know is dropped.
   */
  public void take(String key, List<UseRecord> records, Catalogue catalogue) throws IOException {
    for (UseSource source : sources.all()) {
      if (source.key().equals(key)) {
        take(source, records, catalogue);
      }
    }
  }

  private void take(UseSource source, List<UseRecord> records, Catalogue catalogue)
      throws IOException {
    imports.takeOwn(source.number(), source.key(), "first", records, catalogue);
  }
}
