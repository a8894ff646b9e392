package mandala.server.lifecycle;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.OpenDraftChanges;
import mandala.server.field.DeclaredField;
import mandala.server.field.DeclaredFields;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Many people are brought in at once, from a list. */
@RestController
@RequestMapping("/api/people/arrivals")
class ArrivalController {

  /** How many rows a look shows. */
  private static final int SHOWN = 300;

  private final OpenDraftChanges drafts;
  private final RequestContexts contexts;
  private final DeclaredFields fields;

  ArrivalController(OpenDraftChanges drafts, RequestContexts contexts, DeclaredFields fields) {
    this.drafts = drafts;
    this.contexts = contexts;
    this.fields = fields;
  }

  private Map<String, DeclaredField> declared(ArrivalOrder order, RequestContext context) {
    AccountKey account = new AccountKey(context.known(Kind.ACCOUNTS, order.account()));
    return DeclaredFields.of(account, fields.all(), context.state().engine().catalogue());
  }

  /**
   * A list of people.
   *
   * @param account their home
   * @param list addresses, or a table whose first line names the columns
   * @param columns which column holds which fact, by fact; empty for none. Where absent, by the
   *     names of the columns
   */
  record ArrivalOrder(
      @NotBlank @Size(max = 100) String account,
      @NotBlank @Size(max = 2_000_000) String list,
      @NotNull @Size(max = 20) Map<String, @NotNull @Size(max = 200) String> columns) {}

  /**
   * What a list comes to.
   *
   * @param columns of the table; none of addresses
   * @param facts that a column can hold
   * @param labels of those that the account declares, by fact
   * @param mapping which column holds which fact
   * @param rows the first of them, those with faults before the others
   */
  record ArrivalsView(
      List<String> columns,
      List<String> facts,
      Map<String, String> labels,
      Map<String, String> mapping,
      int fresh,
      int known,
      int faulty,
      List<ArrivalView> rows) {}

  /**
   * A row.
   *
   * @param line on which it begins
   * @param person key of who is there already, where the viewer may read them
   * @param faults what is wrong, in sentences
   */
  record ArrivalView(
      long line,
      @Schema(allowableValues = {"new", "known", "faulty"}) String state,
      String name,
      String email,
      @Nullable String person,
      List<String> faults) {}

  /**
   * Who was brought in.
   *
   * @param draft id of the open draft that has them; absent where nobody was new
   * @param left what was not taken, as a table with a column of reasons; absent where all was
   */
  record ArrivedView(
      @Nullable String draft, int fresh, int known, int faulty, @Nullable String left) {}

  /** Reads a list, and changes nothing. */
  @Costly
  @PostMapping("/look")
  ArrivalsView look(@Valid @RequestBody ArrivalOrder order) {
    RequestContext context = contexts.context();
    ArrivalTable table = ArrivalTable.read(order.list());
    Map<String, DeclaredField> declared = declared(order, context);
    Map<String, List<String>> facts = ArrivalTable.facts(ArrivalTable.FACTS, declared);
    Map<String, String> mapping = table.mapping(facts, order.columns());
    List<Arrivals.Arrival> all =
        read(table, mapping, order, context.state().engine().catalogue(), context, declared);
    List<ArrivalView> rows = new ArrayList<>();
    for (Arrivals.State state :
        List.of(Arrivals.State.FAULTY, Arrivals.State.KNOWN, Arrivals.State.NEW)) {
      all.stream()
          .filter(it -> it.state() == state)
          .limit(SHOWN - rows.size())
          .map(ArrivalController::view)
          .forEach(rows::add);
    }
    return new ArrivalsView(
        table.columns(),
        List.copyOf(facts.keySet()),
        declared.values().stream()
            .collect(Collectors.toMap(DeclaredField::key, DeclaredField::label)),
        mapping,
        count(all, Arrivals.State.NEW),
        count(all, Arrivals.State.KNOWN),
        count(all, Arrivals.State.FAULTY),
        rows);
  }

  /** Puts those who are new into the open draft; the rest comes back with reasons. */
  @Costly
  @PostMapping
  ArrivedView bringIn(@Valid @RequestBody ArrivalOrder order) {
    RequestContext context = contexts.context();
    ArrivalTable table = ArrivalTable.read(order.list());
    Map<String, DeclaredField> declared = declared(order, context);
    Map<String, List<String>> facts = ArrivalTable.facts(ArrivalTable.FACTS, declared);
    Map<String, String> mapping = table.mapping(facts, order.columns());
    List<Arrivals.Arrival> all =
        new ArrayList<>(
            read(table, mapping, order, context.state().engine().catalogue(), context, declared));
    String draft =
        count(all, Arrivals.State.NEW) == 0
            ? null
            : drafts.put(
                context,
                in -> {
                  all.clear(); // the draft may have some of them already
                  all.addAll(read(table, mapping, order, in, context, declared));
                  return Arrivals.changes(all);
                });
    return new ArrivedView(
        draft,
        count(all, Arrivals.State.NEW),
        count(all, Arrivals.State.KNOWN),
        count(all, Arrivals.State.FAULTY),
        left(table, all));
  }

  private static List<Arrivals.Arrival> read(
      ArrivalTable table,
      Map<String, String> mapping,
      ArrivalOrder order,
      Catalogue in,
      RequestContext context,
      Map<String, DeclaredField> declared) {
    AccountKey account = new AccountKey(context.known(Kind.ACCOUNTS, order.account()));
    Arrivals arrivals = new Arrivals(in, context, account, mapping, declared);
    return table.rows().stream().map(arrivals::read).toList();
  }

  private static int count(List<Arrivals.Arrival> all, Arrivals.State state) {
    return (int) all.stream().filter(it -> it.state() == state).count();
  }

  private static ArrivalView view(Arrivals.Arrival it) {
    return new ArrivalView(
        it.row().line(),
        it.state().name().toLowerCase(Locale.ROOT),
        it.name(),
        it.email(),
        it.known() == null ? null : it.known().key().value(),
        it.faults());
  }

  private static @Nullable String left(ArrivalTable table, List<Arrivals.Arrival> all) {
    return table.fileOf(
        all.stream()
            .filter(it -> it.state() != Arrivals.State.NEW)
            .map(it ->
                new ArrivalTable.Left(
                    it.row(),
                    it.state() == Arrivals.State.KNOWN
                        ? "Somebody has this address already."
                        : String.join(" ", it.faults())))
            .toList());
  }
}
