package mandala.server.catalog;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.present.Access;
import mandala.core.question.Extent;
import mandala.core.question.Session;
import mandala.document.ChangeText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import mandala.server.session.SeenTimes;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** People and services, as far as the viewer may see them. */
@RestController
@RequestMapping("/api/people")
class PeopleController {

  /** The most rows that one call gives. */
  static final int MOST = 200;

  private final RequestContexts contexts;
  private final PeopleSearch search;
  private final SeenTimes seen;

  PeopleController(RequestContexts contexts, PeopleSearch search, SeenTimes seen) {
    this.seen = seen;
    this.contexts = contexts;
    this.search = search;
  }

  /**
   * A stretch of the list.
   *
   * @param total how many fit the filter
   * @param persons how many of those are persons, {@code services} services
   * @param areas the areas that the figures of these rows refer to
   * @param titles the titles that occur, for the filter
   */
  record People(
      int total,
      int persons,
      int services,
      int offset,
      List<Row> rows,
      List<Thumbprints.Area> areas,
      List<String> titles) {}

  /**
   * One principal.
   *
   * @param ends the end of their time, null where it has none
   * @param figure its mandala in the account looked at, all with the same areas in the same order;
   *     null where the viewer may not ask about its access
   * @param exposure as it was counted last; null where it was not yet, or the viewer may not ask
   *     about all of its access
   */
  record Row(
      String key,
      String name,
      @Nullable String title,
      String kind,
      String state,
      String account,
      String accountName,
      @Nullable String unitName,
      List<String> roles,
      @Nullable Instant lastSeen,
      @Nullable Instant ends,
      boolean secondFactor,
      Thumbprints.@Nullable Thumbprint figure,
      @Nullable ExposureOfOne exposure) {}

  /**
   * How exposed somebody is.
   *
   * @param unused the part of it that they do not use
   */
  record ExposureOfOne(long exposure, long unused) {}

  /**
   * A principal to choose from a list.
   *
   * @param kind {@code person} or {@code service}
   */
  record Choice(String key, String name, String kind, @Nullable String title, String accountName) {}

  @GetMapping
  People people(
      @ParameterObject PeopleFilter filter,
      @RequestParam(defaultValue = "0") int offset,
      @RequestParam(defaultValue = "50") int limit) {
    if (offset < 0 || limit < 1 || limit > MOST) {
      throw Problem.badRequest(
          "Invalid page range",
          "Give an 'offset' of 0 or more and a 'limit' from 1 to " + MOST + ".");
    }
    RequestContext context = contexts.context();
    PeopleSearch.Found found = search.found(filter, context);
    List<Principal> fitting = found.fitting();
    int persons = (int) fitting.stream().filter(it -> it.kind() == Principal.Kind.PERSON).count();
    Thumbprints figures = new Thumbprints();
    List<Row> rows =
        fitting.stream()
            .skip(offset)
            .limit(limit)
            .map(it -> row(it, context, filter.in(), figures, found.newest()))
            .toList();
    return new People(
        fitting.size(),
        persons,
        fitting.size() - persons,
        offset,
        rows,
        figures.areas(),
        titles(found.readable()));
  }

  /** The people who fit, by what they have in common. */
  record GroupedPeople(List<PeopleGrouping.PeopleGroup> groups) {}

  /** Groups the people who fit by what the filter's {@code by} says. */
  @Costly
  @GetMapping("/groups")
  GroupedPeople groups(@ParameterObject PeopleFilter filter) {
    return new GroupedPeople(search.grouped(filter, contexts.context()));
  }

  private static List<String> titles(List<Principal> seen) {
    return seen.stream()
        .map(it -> it.attributes().get("title"))
        .filter(Objects::nonNull)
        .collect(Collectors.toCollection(TreeSet::new))
        .stream()
        .toList();
  }

  private Row row(
      Principal it,
      RequestContext context,
      @Nullable AccountKey in,
      Thumbprints figures,
      ExposureFigures.Newest newest) {
    ChangeText text = context.text();
    return new Row(
        it.key().value(),
        it.about().nameOr(it.key()),
        it.attributes().get("title"),
        PeopleFilter.word(it.kind()),
        PeopleFilter.word(it.status()),
        it.account().value(),
        text.name(Kind.ACCOUNTS, it.account().value()),
        it.unit() == null ? null : text.name(Kind.UNITS, it.unit().value()),
        roles(it, context),
        seen.of(it),
        it.window().until(),
        it.mfa(),
        figure(it, context, in, figures),
        exposure(newest.people().get(it.key()), context.readPolicy().maySeeAllOf(it.key())));
  }

  private static @Nullable ExposureOfOne exposure(
      ExposureFigures.@Nullable Figure it, boolean told) {
    return it == null || !told ? null : new ExposureOfOne(it.exposure(), it.unused());
  }

  /** Roles of accounts that the viewer may not read are left out. */
  private static List<String> roles(Principal it, RequestContext context) {
    return context.state().engine().rolesHeld(it.key(), context.readPolicy().now()).stream()
        .filter(key -> context.naming().tells(Kind.ROLES, key.value()))
        .map(key -> context.text().name(Kind.ROLES, key.value()))
        .sorted()
        .toList();
  }

  private static Thumbprints.@Nullable Thumbprint figure(
      Principal it, RequestContext context, @Nullable AccountKey in, Thumbprints figures) {
    ReadPolicy.Cut cut = context.readPolicy().cutFor(it);
    if (cut instanceof ReadPolicy.Cut.Nothing) {
      return null;
    }
    Engine engine = context.state().engine();
    Access access =
        engine.access(new Session(it.key(), context.readPolicy().now(), it.mfa(), null));
    Set<AccountKey> only = cut instanceof ReadPolicy.Cut.Within(var accounts) ? accounts : null;
    Extent extent = new Extent(in == null ? it.account() : in, false, only);
    return figures.of(
        FigureView.of(
            access.figure(extent), engine.catalogue(), context.about(it, only, access), true));
  }

  @GetMapping("/choices")
  List<Choice> choices(
      @RequestParam(defaultValue = "") String text,
      @RequestParam(required = false) @Nullable String account,
      @RequestParam(defaultValue = "20") int limit) {
    RequestContext context = contexts.context();
    ChangeText words = context.text();
    return new NameSearch(text)
            .best(
                context.state().people().all().stream(),
                it -> it.key().value(),
                it -> it.about().nameOr(it.key()),
                it -> it.attributes().getOrDefault("title", ""),
                it -> !(context.readPolicy().cutFor(it) instanceof ReadPolicy.Cut.Nothing),
                it -> it.account().value().equals(account),
                Math.clamp(limit, 1, MOST))
            .stream()
            .map(it ->
                new Choice(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    PeopleFilter.word(it.kind()),
                    it.attributes().get("title"),
                    words.name(Kind.ACCOUNTS, it.account().value())))
            .toList();
  }
}
