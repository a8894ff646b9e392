package mandala.server.excess;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.function.ToLongFunction;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Extent;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.platform.ExportTable;
import mandala.server.question.FigureView;
import mandala.server.use.UseReadings;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Works out what the members of a group, the holders of a role or any others use. */
@Component
class StudyJob implements JobKind {

  static final String NAME = "use-of-access";

  /** Of fewer people than these, only their use is read. */
  private static final int FEW = 500;

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final ExcessStudies studies;
  private final UseReadings readings;

  StudyJob(ExcessStudies studies, UseReadings readings) {
    this.studies = studies;
    this.readings = readings;
  }

  /**
   * What is asked.
   *
   * @param of see {@link SelectedPeople#of}
   * @param days of the window; those of the policy where null
   * @param at the instant asked about; now where null
   */
  record Order(
      List<String> of,
      @Nullable Integer days,
      @Nullable Instant at,
      @Nullable String draft,
      @Nullable Long revision) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = run.context(order.draft(), order.revision()).withoutHiddenDraft();
    Set<AccountKey> within = context.draftedWithin();
    UseWindow window = studies.window(order.days(), context.instantOrNow(order.at()));
    SelectedPeople whom = SelectedPeople.of(order.of(), window.at(), context);
    ExcessStudies.Past past = studies.past(window, context.asked(), context.state());
    Engine engine = context.asked().engine();
    Use use =
        whom.people().size() < FEW ? readings.of(whom.people(), window) : readings.all(window);
    ExcessStudy study = engine.excess(past.engine(), use, window);
    List<Figures> found = Collections.synchronizedList(new ArrayList<>());
    study.each(
        whom.people(),
        (done, of) -> {
          run.progress(done, of);
          return true;
        },
        it -> found.add(within == null ? Figures.of(it) : Figures.within(it, study, within)));
    run.answer(
        new StudyAnswer(
            whom.name(),
            window.at(),
            window.days(),
            window.first(),
            past.shorter(),
            whom.part() || within != null,
            found.size(),
            total(found),
            rows(found, context)));
  }

  /** The figures of one principal; of part of their access, young is counted as needed. */
  private record Figures(
      PrincipalKey who,
      long rights,
      long needed,
      @Nullable Long young,
      long unobserved,
      long unused,
      long exposure,
      long unusedExposure) {

    static Figures of(Excess it) {
      return new Figures(
          it.principal(),
          it.rights(),
          it.needed(),
          it.young(),
          it.unobserved(),
          it.excess(),
          it.exposure(),
          it.excessExposure());
    }

    static Figures within(Excess it, ExcessStudy study, Set<AccountKey> accounts) {
      ExcessStudy.Shares shares = study.shares(it.principal());
      Extent extent = new Extent(null, false, accounts);
      long rights = shares.effective().rights(extent);
      long needed = shares.needed().rights(extent);
      long kept = shares.kept().rights(extent);
      long exposure = shares.effective().exposure(extent);
      return new Figures(
          it.principal(),
          rights,
          needed,
          null,
          kept - needed,
          rights - kept,
          exposure,
          exposure - shares.kept().exposure(extent));
    }
  }

  private static StudyAnswer.StudyRow total(List<Figures> all) {
    boolean whole = all.stream().noneMatch(it -> it.young() == null);
    return new StudyAnswer.StudyRow(
        null,
        "All",
        null,
        null,
        sum(all, Figures::rights),
        sum(all, Figures::needed),
        whole ? sum(all, it -> it.young() == null ? 0 : it.young()) : null,
        sum(all, Figures::unobserved),
        sum(all, Figures::unused),
        sum(all, Figures::exposure),
        sum(all, Figures::unusedExposure));
  }

  private static long sum(List<Figures> all, ToLongFunction<Figures> what) {
    return all.stream().mapToLong(what).sum();
  }

  private static List<StudyAnswer.StudyRow> rows(List<Figures> all, RequestContext context) {
    Catalogue catalogue = context.asked().engine().catalogue();
    return all.stream()
        .sorted(
            Comparator.comparingLong((Figures it) -> -it.unusedExposure())
                .thenComparing(it -> it.who().value()))
        .limit(StudyAnswer.MOST)
        .map(it -> {
          Principal who = catalogue.principals().get(it.who());
          return new StudyAnswer.StudyRow(
              who == null ? null : who.key().value(),
              who == null ? "Not signed in" : who.about().nameOr(who.key()),
              who == null ? null : FigureView.word(who.kind()),
              who == null ? null : context.text().name(Kind.ACCOUNTS, who.account().value()),
              it.rights(),
              it.needed(),
              it.young(),
              it.unobserved(),
              it.unused(),
              it.exposure(),
              it.unusedExposure());
        })
        .toList();
  }

  @Override
  public ExportTable table(JsonNode answer) {
    return JSON.treeToValue(answer, StudyAnswer.class).table();
  }
}
