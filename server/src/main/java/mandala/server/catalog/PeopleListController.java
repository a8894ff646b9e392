package mandala.server.catalog;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.figure.ExposureFigures;
import mandala.server.platform.Costly;
import mandala.server.platform.ExportTable;
import mandala.server.session.SeenTimes;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The list of people as a file, and lists that people bring. */
@RestController
@RequestMapping("/api/people")
class PeopleListController {

  /** The most lines that one call looks up. */
  static final int MOST_LINES = 1_000;

  private static final List<String> HEAD =
      List.of(
          "name",
          "key",
          "address",
          "kind",
          "state",
          "title",
          "unit",
          "account",
          "last seen",
          "ends",
          "second factor",
          "exposure",
          "unused exposure");

  private final RequestContexts contexts;
  private final PeopleSearch search;
  private final SeenTimes seen;

  PeopleListController(RequestContexts contexts, PeopleSearch search, SeenTimes seen) {
    this.seen = seen;
    this.contexts = contexts;
    this.search = search;
  }

  /** Exports the people who fit, in the order of the list. */
  @Costly
  @GetMapping("/file")
  void file(
      @ParameterObject PeopleFilter filter,
      @RequestParam(defaultValue = "csv") String format,
      HttpServletResponse response)
      throws IOException {
    RequestContext context = contexts.context();
    ChangeText text = context.text();
    PeopleSearch.Found found = search.found(filter, context);
    Map<PrincipalKey, ExposureFigures.Figure> newest = found.newest().people();
    List<List<Object>> rows =
        found.fitting().stream()
            .map(it ->
                cells(
                    it,
                    text,
                    context.readPolicy().maySeeAllOf(it.key()) ? newest.get(it.key()) : null))
            .toList();
    new ExportTable("people", HEAD, rows).send(format, response);
  }

  private List<Object> cells(
      Principal it, ChangeText text, ExposureFigures.@Nullable Figure exposure) {
    return List.of(
        it.about().nameOr(it.key()),
        it.key().value(),
        or(it.email()),
        PeopleFilter.word(it.kind()),
        PeopleFilter.word(it.status()),
        or(it.attributes().get("title")),
        it.unit() == null ? "" : text.name(Kind.UNITS, it.unit().value()),
        text.name(Kind.ACCOUNTS, it.account().value()),
        or(seen.of(it)),
        or(it.window().until()),
        it.mfa() ? "yes" : "no",
        exposure == null ? "" : exposure.exposure(),
        exposure == null ? "" : exposure.unused());
  }

  private static Object or(@Nullable Object value) {
    return value == null ? "" : value.toString();
  }

  /** Names, addresses or keys, one of somebody each. */
  record Lines(@NotEmpty @Size(max = MOST_LINES) List<@NotNull @Size(max = 300) String> lines) {}

  /** Somebody who was found. */
  record NamedPerson(String key, String name, String kind, String accountName) {}

  /**
   * Whom lines name.
   *
   * @param found each once
   * @param unknown lines that name nobody whom the viewer may read
   * @param ambiguous lines that name several: an address or key tells them apart
   */
  record NamedList(List<NamedPerson> found, List<String> unknown, List<String> ambiguous) {}

  /** Looks up whom a pasted list names, by key, address or full name in any case. */
  @Costly
  @PostMapping("/named")
  NamedList named(@Valid @RequestBody Lines lines) {
    RequestContext context = contexts.context();
    Map<String, Set<Principal>> known = new HashMap<>();
    for (Principal it : context.state().people().all()) {
      if (context.readPolicy().mayRead(it)) {
        put(known, it.key().value(), it);
        put(known, it.about().nameOr(it.key()), it);
        if (it.email() != null) {
          put(known, it.email(), it);
        }
      }
    }
    ChangeText text = context.text();
    Set<Principal> found = new LinkedHashSet<>();
    List<String> unknown = new ArrayList<>();
    List<String> ambiguous = new ArrayList<>();
    for (String line : lines.lines()) {
      Set<Principal> them = known.getOrDefault(plain(line), Set.of());
      if (them.size() == 1) {
        found.addAll(them);
      } else if (!line.isBlank()) {
        (them.isEmpty() ? unknown : ambiguous).add(line.strip());
      }
    }
    return new NamedList(
        found.stream()
            .map(it ->
                new NamedPerson(
                    it.key().value(),
                    it.about().nameOr(it.key()),
                    PeopleFilter.word(it.kind()),
                    text.name(Kind.ACCOUNTS, it.account().value())))
            .toList(),
        unknown,
        ambiguous);
  }

  private static void put(Map<String, Set<Principal>> known, String name, Principal it) {
    known.computeIfAbsent(plain(name), _ -> new LinkedHashSet<>()).add(it);
  }

  private static String plain(String text) {
    return text.strip().replaceAll("\\s+", " ").toLowerCase(Locale.ROOT);
  }
}
