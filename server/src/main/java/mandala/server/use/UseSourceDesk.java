package mandala.server.use;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.Naming;
import mandala.document.UseColumns;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Judges who may see and change sources of use: whoever manages the settings of a source's account.
 * A source reports use of places in its account and in those below it, nowhere else.
 */
@Service
class UseSourceDesk {

  private final UseSources sources;
  private final UseStrangers strangers;
  private final UsePolicy policy;
  private final JdbcTemplate database;
  private final Trail trail;
  private final AuditContext auditContext;
  private final Clock clock;

  UseSourceDesk(
      UseSources sources,
      UseStrangers strangers,
      UsePolicy policy,
      JdbcTemplate database,
      Trail trail,
      AuditContext auditContext,
      Clock clock) {
    this.sources = sources;
    this.strangers = strangers;
    this.policy = policy;
    this.database = database;
    this.trail = trail;
    this.auditContext = auditContext;
    this.clock = clock;
  }

  /**
   * The sources.
   *
   * @param accounts keys of the accounts for which the viewer may add sources
   * @param sources by name: of accounts whose settings the viewer manages
   * @param ownSince the first day of which Mandala reports whole who used its own permissions
   * @param rolledAfter after how many days a month that is over is kept as a mask of its days
   * @param kept for how many days use is kept
   * @param strangersKept for how many days records are kept that name what the model lacks
   * @param window days of the window where a question names none
   * @param mine whether the viewer may change these figures
   */
  record SourceList(
      List<String> accounts,
      List<SourceView> sources,
      LocalDate ownSince,
      int rolledAfter,
      int kept,
      int strangersKept,
      int window,
      boolean mine) {}

  /**
   * A source.
   *
   * @param permissions keys of those that it reports, absent for all
   * @param places keys of those on which it does, each with all below it
   * @param more whether it reports permissions or places that the viewer may not read
   * @param columns which columns of its tables have what
   * @param batches how many batches came in
   * @param records how many records
   * @param latest when the last batch came in
   */
  record SourceView(
      String key,
      String name,
      String account,
      @Nullable List<String> permissions,
      List<String> places,
      boolean more,
      LocalDate since,
      UseColumns columns,
      long batches,
      long records,
      @Nullable Instant latest) {}

  /**
   * What a source is to be.
   *
   * @param permissions keys of those of which it reports every use, absent for all
   * @param places keys of those on which it does, each with all below it; absent for the whole
   *     account
   * @param since the first day that it reports whole
   */
  record SourceOrder(
      @NotBlank @Size(max = 80) String name,
      @NotBlank @Size(max = 200) String account,
      @Nullable @Size(min = 1, max = 2000) Set<@NotBlank String> permissions,
      @Nullable @Size(min = 1, max = 200) Set<@NotBlank String> places,
      @NotNull LocalDate since,
      @Nullable @Valid ColumnOrder columns) {}

  /** Which columns of tables have what; those that are absent are named like the fields. */
  record ColumnOrder(
      @NotBlank @Size(max = 200) String principal,
      @NotBlank @Size(max = 200) String permission,
      @NotBlank @Size(max = 200) String resource,
      @NotBlank @Size(max = 200) String day,
      @Nullable @Size(max = 200) String count,
      @Nullable @Size(max = 200) String actingFor) {
    UseColumns columns() {
      return new UseColumns(principal, permission, resource, day, count, actingFor);
    }
  }

  /** What came in of a source. */
  private record Came(long batches, long records, Instant latest) {}

  /** {@return the sources that a viewer may see} */
  SourceList list(RequestContext context) {
    ReadPolicy readPolicy = context.readPolicy();
    List<String> accounts =
        context.state().engine().catalogue().accounts().keySet().stream()
            .filter(it -> manages(it, readPolicy))
            .map(Key::value)
            .sorted()
            .toList();
    if (accounts.isEmpty()) {
      throw Problem.forbidden(
          "You need “Manage settings” on an account to see where its use comes from. Ask its"
              + " administrator.");
    }
    Map<String, Came> came = came();
    UsePolicy.Rule rule = policy.rule();
    return new SourceList(
        accounts,
        sources.all().stream()
            .filter(it -> manages(it.account(), readPolicy))
            .map(it -> view(it, came.get(it.key()), context.naming()))
            .toList(),
        sources.ownSince(),
        rule.rolledAfter(),
        rule.kept(),
        rule.strangersKept(),
        rule.window(),
        managesAll(context));
  }

  private static boolean manages(AccountKey account, ReadPolicy readPolicy) {
    return readPolicy.may(Supplied.SETTINGS_MANAGE, ResourceKey.of(account));
  }

  /** Whether somebody manages the settings of every root account. */
  private static boolean managesAll(RequestContext context) {
    return context.state().engine().catalogue().accounts().values().stream()
        .filter(it -> it.parent() == null)
        .allMatch(it -> manages(it.key(), context.readPolicy()));
  }

  private Map<String, Came> came() {
    return database
        .query(
            "select source, count(*), sum(records), max(at) from use_batch group by source",
            (row, _) ->
                Map.entry(
                    row.getString(1),
                    new Came(row.getLong(2), row.getLong(3), row.getTimestamp(4).toInstant())))
        .stream()
        .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
  }

  private static SourceView view(UseSource it, @Nullable Came came, Naming naming) {
    Set<PermissionKey> permissions = it.permissions();
    List<String> reported =
        permissions == null
            ? null
            : keys(permissions).stream()
                .filter(key -> naming.tells(Kind.PERMISSIONS, key))
                .toList();
    List<String> places =
        keys(it.places()).stream().filter(key -> naming.tells(new ResourceKey(key))).toList();
    return new SourceView(
        it.key(),
        it.name(),
        it.account().value(),
        reported,
        places,
        places.size() < it.places().size()
            || (permissions != null && reported != null && reported.size() < permissions.size()),
        it.since(),
        it.columns(),
        came == null ? 0 : came.batches(),
        came == null ? 0 : came.records(),
        came == null ? null : came.latest());
  }

  private static List<String> keys(Set<? extends Key> keys) {
    return keys.stream().map(Key::value).sorted().toList();
  }

  /**
   * {@return a source whose account's settings somebody manages}
   *
   * @throws Problem if there is none to their eyes
   */
  UseSource require(String key, RequestContext context) {
    return sources
        .find(key)
        .filter(it -> manages(it.account(), context.readPolicy()))
        .orElseThrow(() -> Problem.notFound("There is no source '" + key + "'."));
  }

  /**
   * Adds a source, or changes one.
   *
   * @throws Problem if the viewer may not, or it cannot be
   */
  @Transactional
  public SourceList keep(String key, SourceOrder order, RequestContext context) {
    AccountKey account = new AccountKey(order.account());
    Optional<UseSource> was = sources.find(key);
    ReadPolicy readPolicy = context.readPolicy();
    if (!manages(account, readPolicy)
        || was.filter(it -> !manages(it.account(), readPolicy)).isPresent()) {
      throw Problem.forbidden(
          "You need “Manage settings” on '"
              + order.account()
              + "', and there must be no source '"
              + key
              + "' of another account. Ask its administrator, or choose another key.");
    }
    if (key.equals(UseSources.OWN)) {
      throw Problem.badRequest(
          "'" + key + "' is Mandala itself",
          "It reports the use of its own permissions. Choose another key.");
    }
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    if (order.since().isAfter(today)) {
      throw Problem.badRequest(
          "The day has not come yet",
          "A source reports whole since " + order.since() + ". Choose a day up to " + today + ".");
    }
    sources.keep(
        new UseSource(
            0,
            key,
            order.name().strip(),
            account,
            permissions(order.permissions(), context),
            places(order.places(), account, context),
            order.since(),
            order.columns() == null ? UseColumns.PLAIN : order.columns().columns()));
    note(
        account,
        (was.isEmpty() ? "Added" : "Changed")
            + " the source of use “"
            + order.name().strip()
            + "”");
    return list(context);
  }

  private static @Nullable Set<PermissionKey> permissions(
      @Nullable Set<String> order, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    if (order == null) {
      return null;
    }
    return order.stream()
        .map(it -> {
          Permission permission = catalogue.permissions().get(new PermissionKey(it));
          if (permission == null || !context.readPolicy().mayRead(permission, catalogue)) {
            throw Problem.badRequest(
                "There is no permission '" + it + "'", "Check the spelling, or leave it out.");
          }
          return permission.key();
        })
        .collect(Collectors.toSet());
  }

  private static Set<ResourceKey> places(
      @Nullable Set<String> order, AccountKey account, RequestContext context) {
    if (order == null) {
      return Set.of(ResourceKey.of(account));
    }
    KnownNames names = new KnownNames(context.state().engine().catalogue(), account, null);
    return order.stream()
        .map(it -> {
          ResourceKey place = new ResourceKey(it);
          if (!names.covers(place) || !context.naming().tells(Kind.RESOURCES, it)) {
            throw Problem.badRequest(
                "There is no place '" + it + "' in '" + account + "'",
                "A source reports places of its account. Check the spelling, or leave it out.");
          }
          return place;
        })
        .collect(Collectors.toSet());
  }

  /**
   * Removes a source; what it reported stays, and from now on counts as not observed where no other
   * source reports it.
   */
  @Transactional
  public SourceList remove(String key, RequestContext context) {
    UseSource source = require(key, context);
    sources.delete(key);
    note(source.account(), "Removed the source of use “" + source.name() + "”");
    return list(context);
  }

  /**
   * What names of a source are strangers to the viewer: the model lacks them, or the viewer may not
   * read them.
   *
   * @param records how many records
   * @param strangers those of the most records first; not all where there are very many
   */
  record StrangerList(long records, List<StrangerView> strangers) {}

  /**
   * Names that come together in records.
   *
   * @param missing which fields name what is not known
   */
  record StrangerView(
      String principal,
      String permission,
      String resource,
      @Nullable String actingFor,
      LocalDate last,
      long records,
      List<String> missing) {}

  private static final int MOST_STRANGERS = 200;

  /** {@return the strangers of a source} */
  StrangerList strangers(String key, RequestContext context) {
    UseSource source = require(key, context);
    KnownNames names =
        new KnownNames(
            context.state().engine().catalogue(), source.account(), context.readPolicy());
    List<UseStrangers.Stranger> some =
        strangers.of(source).stream().filter(it -> !names.tells(it.names())).toList();
    return new StrangerList(
        some.stream().mapToLong(UseStrangers.Stranger::records).sum(),
        some.stream().limit(MOST_STRANGERS).map(it -> view(it, names)).toList());
  }

  private static StrangerView view(UseStrangers.Stranger it, KnownNames names) {
    UseRecord named = it.names();
    return new StrangerView(
        named.principal().value(),
        named.permission().value(),
        named.resource().value(),
        named.actingFor() == null ? null : named.actingFor().value(),
        named.day(),
        it.records(),
        names.missing(named));
  }

  /**
   * Sets how long use is kept, and the ordinary window.
   *
   * @throws Problem if the viewer may not, or the figures do not go together
   */
  @Transactional
  public SourceList set(UsePolicy.Rule rule, RequestContext context) {
    if (!managesAll(context)) {
      throw Problem.forbidden(
          "You need “Manage settings” on every root account to set how long use is kept. Ask an"
              + " owner.");
    }
    if (rule.window() > rule.kept()) {
      throw Problem.badRequest(
          "The window is longer than what is kept",
          "A window of "
              + rule.window()
              + " days needs use of as many; "
              + rule.kept()
              + " are kept. Keep use for longer, or choose a shorter window.");
    }
    policy.set(rule);
    context.state().engine().catalogue().accounts().values().stream()
        .filter(it -> it.parent() == null)
        .forEach(it ->
            note(
                it.key(),
                "Set that use is kept for %d days and rolled up after %d; the window is %d days"
                    .formatted(rule.kept(), rule.rolledAfter(), rule.window())));
    return list(context);
  }

  private void note(AccountKey account, String said) {
    trail.write(List.of(auditContext.by(AuditEvent.Act.CHANGED, List.of(account.value()), said)));
  }
}
