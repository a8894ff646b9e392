package mandala.server.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.AccountKey;
import mandala.core.review.ReviewItem;
import mandala.document.ChangeText;
import mandala.document.ReviewText;
import mandala.document.TroubleText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.session.AuditContext;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ByteArrayResource;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Writes reports of rounds, and keeps them as they were written. */
@Component
class Reports {

  private final ReviewStore store;
  private final RoundFigures figures;
  private final JdbcTemplate database;
  private final Trail trail;
  private final AuditContext auditContext;

  Reports(
      ReviewStore store,
      RoundFigures figures,
      JdbcTemplate database,
      Trail trail,
      AuditContext auditContext) {
    this.store = store;
    this.figures = figures;
    this.database = database;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  // ---- as they are kept -------------------------------------------------------------------------

  /** A report with the keys of the people whom it names. */
  record Written(RoundReport report, Set<String> named) {}

  /** A file of a report. */
  record Kept(ByteArrayResource content, String sha256, boolean signed, Set<String> named) {}

  /** {@return the newest report of a round in a form}: the signed one, where there is one */
  Optional<Kept> find(long round, ReportFiles.Form form) {
    return database
        .query(
            "select content, sha256, signed, named from review_report where round = ? and form = ?"
                + " order by signed desc limit 1",
            (row, _) ->
                new Kept(
                    new ByteArrayResource(row.getBytes(1)),
                    row.getString(2),
                    row.getBoolean(3),
                    Set.of((String[]) row.getArray(4).getArray())),
            round,
            form.word())
        .stream()
        .findFirst();
  }

  /** {@return the hashes of a round's newest report}, by form; none where there is no report */
  Map<String, String> hashes(long round) {
    Map<String, String> hashes = new HashMap<>();
    database.query(
        "select form, sha256 from review_report where round = ? order by signed",
        row -> {
          hashes.put(row.getString(1), row.getString(2));
        },
        round);
    return hashes;
  }

  /**
   * Keeps a report, and notes its hashes in the trail, in the running transaction.
   *
   * @param said what happened: “Closed”, “Signed”
   */
  void keep(Round round, Written written, String said, Catalogue catalogue, Instant now) {
    RoundReport report = written.report();
    boolean signed = report.signature() != null;
    List<String> hashes = new ArrayList<>();
    for (ReportFiles.Form form : ReportFiles.Form.values()) {
      byte[] content = ReportFiles.write(report, form);
      String hash = DigestUtils.sha256Hex(content);
      hashes.add(form.word() + " " + hash);
      database.update(
          "insert into review_report (round, signed, form, content, sha256, named, made_at)"
              + " values (?, ?, ?, ?, ?, ?, ?)",
          round.number(),
          signed,
          form.word(),
          content,
          hash,
          written.named().toArray(String[]::new),
          ReviewStore.utc(now));
    }
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHECKED,
                RoundDesk.accounts(round.order(), catalogue).stream()
                    .map(AccountKey::value)
                    .toList(),
                said
                    + " the review round "
                    + round.number()
                    + ", “"
                    + round.title()
                    + "”; SHA-256 of its report: "
                    + String.join(", ", hashes))));
  }

  // ---- as they are written ----------------------------------------------------------------------

  /**
   * {@return the report of a round that closes}, in the names of now
   *
   * @param owner as whom it is written: whom they may not read it does not name
   */
  Written write(Round round, RequestContext owner, Instant closed, long before, long after) {
    List<RoundItem> items = store.all(round.number());
    Map<Integer, List<ReviewStore.Act>> acts = store.actsOf(round.number());
    Names names = new Names(owner);
    List<RoundReport.ReportedItem> reported =
        items.stream()
            .map(it -> item(it, acts.getOrDefault(it.number(), List.of()), names))
            .toList();
    RoundReport report =
        new RoundReport(
            RoundReport.FORMAT,
            summary(round, items, names, closed, before, after),
            reviewers(round.number(), names),
            reported,
            null);
    return new Written(report, Set.copyOf(names.people));
  }

  /** Names as the owner of a round knows them, noting whom they name. */
  private static final class Names {
    private final RequestContext context;
    private final ChangeText text;
    private final ReviewText items;
    private final TroubleText things;
    private final Set<String> people = new LinkedHashSet<>();

    Names(RequestContext context) {
      this.context = context;
      Catalogue catalogue = context.state().engine().catalogue();
      text = context.text();
      items = new ReviewText(catalogue, context.naming());
      things = new TroubleText(catalogue, context.naming());
    }

    boolean tells(Kind kind, String key) {
      boolean told = context.naming().tells(kind, key);
      if (told && kind == Kind.PRINCIPALS) {
        people.add(key);
      }
      return told;
    }

    String of(String person) {
      tells(Kind.PRINCIPALS, person);
      return text.name(Kind.PRINCIPALS, person);
    }

    @Nullable String orNull(@Nullable String person) {
      return person == null ? null : of(person);
    }

    String account(String key) {
      return text.name(Kind.ACCOUNTS, key);
    }

    String what(ReviewItem it) {
      return items.of(it);
    }

    String about(RoundItem it) {
      return things.name(it.item().about());
    }

    String key(RoundItem it) {
      return tells(TroubleText.kind(it.item().about()), it.about())
          ? it.about()
          : context.mark(it.aboutKind() + " " + it.about());
    }
  }

  private static RoundReport.ReviewSummary summary(
      Round round, List<RoundItem> items, Names names, Instant closed, long before, long after) {
    RoundOrder order = round.order();
    RoundOrder.RoundEffect how = order.effectOrUsual();
    Set<String> people = new LinkedHashSet<>();
    Map<String, Integer> verdicts = new HashMap<>();
    int byRule = 0;
    int gone = 0;
    for (RoundItem it : items) {
      if (it.control()) {
        continue;
      }
      if (it.aboutKind().equals("principals")) {
        people.add(it.about());
      }
      if (it.state() == RoundItem.State.GONE) {
        gone++;
      } else if (it.verdict() != null) {
        verdicts.merge(it.verdict(), 1, Integer::sum);
        byRule += it.decidedBy() == null ? 1 : 0;
      }
    }
    String where =
        order.accounts().isEmpty()
            ? "all accounts"
            : order.accounts().stream().map(names::account).collect(Collectors.joining(", "));
    return new RoundReport.ReviewSummary(
        round.number(),
        round.title(),
        String.join(", ", order.contents())
            + " in "
            + where
            + (order.place() == null ? "" : ", on one place and what is below it")
            + (order.risk().equals("low") ? "" : ", of " + order.risk() + " risk or more")
            + switch (order.only()) {
              case "new" -> ", only what is new or changed since the last round";
              case "never" -> ", only what was never reviewed";
              default -> "";
            }
            + (order.detectors().isEmpty()
                ? ""
                : ", part of findings: " + String.join(", ", order.detectors())),
        round.cause(),
        names.of(round.owner()),
        round.begins(),
        round.ends(),
        closed,
        Objects.requireNonNullElse(round.revision(), 0L),
        items.size(),
        people.size(),
        before,
        after,
        verdicts.getOrDefault("keep", 0),
        verdicts.getOrDefault("reduce", 0),
        verdicts.getOrDefault("remove", 0),
        byRule,
        gone,
        how.undecided()
            + " after "
            + how.grace()
            + " days"
            + (how.escalate() ? ", managers first" : ""));
  }

  private List<RoundReport.ReportedReviewer> reviewers(long round, Names names) {
    Map<String, Double> pace = figures.pace(round);
    Map<String, RoundFigures.Controls> controls = figures.controls(round);
    List<RoundReport.ReportedReviewer> all = new ArrayList<>();
    figures
        .progress(round)
        .forEach((key, it) -> {
          RoundFigures.Controls met = controls.getOrDefault(key, new RoundFigures.Controls(0, 0));
          int decided = it.kept() + it.reduced() + it.removed();
          all.add(
              new RoundReport.ReportedReviewer(
                  key.isEmpty() ? "No one" : names.of(key),
                  it.all(),
                  it.kept(),
                  it.reduced(),
                  it.removed(),
                  decided == 0 ? null : (double) it.kept() / decided,
                  pace.get(key),
                  met.decided(),
                  met.kept()));
        });
    return all;
  }

  private static RoundReport.ReportedItem item(
      RoundItem it, List<ReviewStore.Act> acts, Names names) {
    RoundItem.Effect effect = it.effect();
    return new RoundReport.ReportedItem(
        it.number(),
        names.what(it.item()),
        it.aboutKind(),
        names.key(it),
        names.about(it),
        it.account() == null ? null : names.account(it.account()),
        it.risk(),
        it.takes(),
        effect.expected(),
        it.recommended(),
        it.control(),
        names.orNull(it.decider()),
        names.orNull(it.insteadOf()),
        it.verdict(),
        it.reason(),
        names.orNull(it.decidedBy()),
        it.decidedAt(),
        outcome(it),
        effect.revision(),
        effect.remark(),
        acts.stream()
            .map(act ->
                new RoundReport.ReportedAct(
                    act.act(),
                    names.orNull(act.who()),
                    act.at(),
                    act.verdict(),
                    act.said(),
                    names.orNull(act.whom())))
            .toList());
  }

  /** {@return what became of an item}, in words */
  static String outcome(RoundItem it) {
    if (it.state() == RoundItem.State.GONE) {
      return it.control() ? "Not decided" : "Gone from the model meanwhile";
    }
    if (it.control()) {
      return "Known wrong, not in the model";
    }
    RoundItem.Outcome outcome = it.effect().outcome();
    if (outcome == RoundItem.Outcome.ANSWERED) {
      return "Answered for";
    }
    if (outcome == RoundItem.Outcome.IN_FORCE) {
      return "In force";
    }
    return "keep".equals(it.verdict()) ? "Kept" : "No effect yet";
  }
}
