package mandala.server.reconcile;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Identities;
import mandala.core.reconcile.Terms;
import mandala.document.ChangeText;
import mandala.document.HeldReader;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps what the terms of connected systems mean; they count only after a trial on a sample. */
@Service
class TermsDesk {

  /** Maximum number of faults that are listed. */
  private static final int MOST_FAULTS = 100;

  /** Maximum number of lines of a sample that are listed. */
  private static final int MOST_TRIED = 50;

  private final SystemDesk desk;
  private final SystemStore store;
  private final Clock clock;

  TermsDesk(SystemDesk desk, SystemStore store, Clock clock) {
    this.desk = desk;
    this.store = store;
    this.clock = clock;
  }

  /**
   * Keeps a version of a system's terms; it does not count yet.
   *
   * @throws Problem if it has faults, or names what the viewer may not read
   */
  @Transactional
  public SystemController.SystemView addTerms(String key, byte[] table, RequestContext context) {
    ConnectedSystem system = desk.lockManaged(key, context);
    Catalogue catalogue = context.state().engine().catalogue();
    HeldReader.Read read;
    try {
      read = HeldReader.terms(new ByteArrayInputStream(table), catalogue, context.naming());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    requireNone("The terms have ", read.faults());
    if (read.terms().entitlements().isEmpty() || read.terms().places().isEmpty()) {
      throw Problem.badRequest(
          "The terms compare nothing",
          "They need at least one entitlement and one place; for a system without places, a place"
              + " whose 'theirs' is empty. Add these lines and send it again.");
    }
    int version =
        store.addTerms(key, table, context.readPolicy().viewer().value(), clock.instant());
    desk.note(
        system.account(), "Added version " + version + " of the terms of “" + system.name() + "”");
    return desk.view(system, context);
  }

  /**
   * {@return a version as it was sent}
   *
   * @throws Problem if it names what the viewer may not read
   */
  String terms(String key, int version, RequestContext context) {
    ConnectedSystem system = desk.requireManaged(key, context);
    byte[] content = store.content(key, require(system, version).version());
    Catalogue catalogue = context.state().engine().catalogue();
    try {
      HeldReader.Read all = HeldReader.terms(new ByteArrayInputStream(content), catalogue);
      HeldReader.Read told =
          HeldReader.terms(new ByteArrayInputStream(content), catalogue, context.naming());
      if (!told.faults().equals(all.faults())) {
        throw Problem.forbidden(
            "Version "
                + version
                + " names people, permissions or places that you may not read. Ask whoever made"
                + " it.");
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return new String(content, StandardCharsets.UTF_8);
  }

  /** {@return what a version makes of a sample}; from then on it was tried */
  @Transactional
  public SystemController.TermsTrial tryTerms(
      String key, int version, byte[] sample, RequestContext context) {
    ConnectedSystem system = desk.lockManaged(key, context);
    require(system, version);
    Catalogue catalogue = context.state().engine().catalogue();
    Terms terms = usable(store.content(key, version), catalogue);
    Identities identities = new Identities(catalogue, terms);
    ChangeText text = context.text();
    List<HeldLine> lines = read(sample, system);
    if (lines.isEmpty()) {
      throw Problem.badRequest(
          "The sample has no line", "Send the first lines of what the system holds.");
    }
    Map<String, Integer> untranslated = new TreeMap<>();
    TreeSet<String> strangers = new TreeSet<>();
    int translated = 0;
    List<SystemController.TriedLine> tried = new ArrayList<>();
    for (HeldLine line : lines) {
      PrincipalKey who = identities.of(line.identity());
      boolean known = who != null && context.naming().tells(Kind.PRINCIPALS, who.value());
      List<PermissionKey> permissions =
          terms.entitlements().getOrDefault(line.entitlement(), List.of());
      Terms.Area area = terms.places().get(line.place());
      if (!known) {
        strangers.add(line.identity());
      }
      List<String> lacking = terms.lacking(line);
      lacking.forEach(it -> untranslated.merge(it, 1, Integer::sum));
      translated += known && lacking.isEmpty() ? 1 : 0;
      if (tried.size() < MOST_TRIED) {
        tried.add(
            new SystemController.TriedLine(
                line.identity(),
                known && who != null ? text.name(Kind.PRINCIPALS, who.value()) : null,
                line.entitlement(),
                permissions.stream()
                    .map(permission -> text.name(Kind.PERMISSIONS, permission.value()))
                    .toList(),
                line.place(),
                area == null ? null : text.place(area.top()),
                area != null && area.below()));
      }
    }
    store.tried(key, version, clock.instant());
    return new SystemController.TermsTrial(
        lines.size(), translated, untranslated, List.copyOf(strangers), tried);
  }

  /**
   * Has a version of the terms count from the next comparison on.
   *
   * @throws Problem if it was not tried
   */
  @Transactional
  public SystemController.SystemView useTerms(String key, int version, RequestContext context) {
    ConnectedSystem system = desk.lockManaged(key, context);
    if (require(system, version).triedAt() == null) {
      throw Problem.conflict(
          "Version " + version + " was not tried yet",
          "Try it on a sample of what the system holds, and see whether it means what you think.");
    }
    usable(store.content(key, version), context.state().engine().catalogue());
    store.use(key, version);
    desk.note(
        system.account(),
        "Put version " + version + " of the terms of “" + system.name() + "” in force");
    return desk.view(desk.require(key, context), context);
  }

  private SystemStore.TermsVersion require(ConnectedSystem system, int version) {
    return store.terms(system.key()).stream()
        .filter(it -> it.version() == version)
        .findFirst()
        .orElseThrow(() ->
            Problem.notFound(
                "“"
                    + system.name()
                    + "” has no version "
                    + version
                    + " of its terms. Choose one from the list."));
  }

  /**
   * {@return the version that counts}
   *
   * @throws Problem if none do
   */
  static int requireInForce(ConnectedSystem system) {
    Integer version = system.terms();
    if (version == null) {
      throw Problem.conflict(
          "“" + system.name() + "” has no terms in force",
          "Add what its terms mean, try them on a sample, and put them in force.");
    }
    return version;
  }

  /**
   * {@return what terms mean in the model in force}
   *
   * @throws Problem if it lacks something that they name
   */
  static Terms usable(byte[] content, Catalogue catalogue) {
    try {
      HeldReader.Read read = HeldReader.terms(new ByteArrayInputStream(content), catalogue);
      requireNone("The terms have ", read.faults());
      return read.terms();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /**
   * {@return what a table says}
   *
   * @throws Problem if it has faults
   */
  static List<HeldLine> read(byte[] table, ConnectedSystem system) {
    List<HeldLine> lines = new ArrayList<>();
    try {
      requireNone(
          "The table has ",
          HeldReader.read(
              new ByteArrayInputStream(table), system.columns(), MOST_FAULTS, lines::add));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return lines;
  }

  private static void requireNone(String what, List<Fault> faults) {
    if (!faults.isEmpty()) {
      int many = faults.size();
      throw Problem.faulty(
          what + many + (many == 1 ? " fault" : " faults"),
          faults.stream().limit(MOST_FAULTS).toList());
    }
  }
}
