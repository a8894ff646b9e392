package mandala.server.figure;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What an account had on each day of the last month. */
@RestController
@RequestMapping("/api/accounts/{key}/figures")
class FigureController {

  private final DailyFigures figures;
  private final ExposureFigures exposures;
  private final PastExposure past;
  private final RequestContexts contexts;

  FigureController(
      DailyFigures figures,
      ExposureFigures exposures,
      PastExposure past,
      RequestContexts contexts) {
    this.past = past;
    this.figures = figures;
    this.exposures = exposures;
    this.contexts = contexts;
  }

  /**
   * The figures of an account.
   *
   * @param days those of which there are any, the earliest first; the last is of today, as it was
   *     counted within the last hour
   */
  record AccountFigures(List<FiguresOfDay> days) {}

  /**
   * What an account had at the end of a day. People are counted for those who may read all of its
   * units, findings for those who may ask about access in it; else a figure is absent.
   *
   * @param dormant active people who were last seen more than 90 days before
   * @param findings those that concern nothing outside of the account
   * @param exposure of those at home in the account, all of their access
   * @param unused the part of it that they do not use, in the window of the policy
   */
  record FiguresOfDay(
      LocalDate day,
      @Nullable Integer people,
      @Nullable Integer guests,
      @Nullable Integer services,
      @Nullable Integer dormant,
      @Nullable Integer findings,
      @Nullable Long exposure,
      @Nullable Long unused) {}

  /**
   * What the viewer may know of an account.
   *
   * @param people whether they may read all of its units
   * @param asks whether they may also ask about all access in it
   */
  private record Told(AccountKey account, boolean people, boolean asks) {}

  private Told told(String key) {
    RequestContext context = contexts.context();
    ReadPolicy policy = context.readPolicy();
    Catalogue catalogue = context.state().engine().catalogue();
    AccountKey account = new AccountKey(key.isBlank() ? "?" : key);
    if (!catalogue.accounts().containsKey(account) || !policy.mayRead(account)) {
      throw Problem.notFound("There is no account '" + key + "'.");
    }
    boolean people =
        catalogue.units().values().stream()
            .filter(it -> it.account().equals(account))
            .allMatch(it -> policy.may(Supplied.DIRECTORY_READ, ResourceKey.of(it.key())));
    return new Told(
        account, people, people && policy.may(Supplied.ACCESS_ASK, ResourceKey.of(account)));
  }

  /**
   * How exposed those at home in an account were over time.
   *
   * @param days the earliest first; each counts until the next, the last of today. None where the
   *     viewer may not ask about all access in the account
   */
  record AccountExposure(List<ExposureOfDay> days) {}

  /**
   * The exposure of those at home in an account on a day.
   *
   * @param unused the part of it that they did not use, in the window of the policy; absent before
   *     it was counted
   */
  record ExposureOfDay(LocalDate day, long exposure, @Nullable Long unused) {}

  /** Exposure over time. */
  @GetMapping("/exposure")
  AccountExposure exposure(@PathVariable String key) {
    Told told = told(key);
    List<ExposureOfDay> days = new ArrayList<>();
    if (told.asks()) {
      past.of(told.account().value())
          .forEach(it -> days.add(new ExposureOfDay(it.day(), it.exposure(), null)));
      exposures
          .since(ExposureFigures.Of.ACCOUNT, told.account().value(), LocalDate.EPOCH)
          .forEach(it ->
              days.add(new ExposureOfDay(it.day(), it.figure().exposure(), it.figure().unused())));
    }
    return new AccountExposure(days);
  }

  /** The figures of the last month. */
  @GetMapping
  AccountFigures figures(@PathVariable String key) {
    Told told = told(key);
    AccountKey account = told.account();
    boolean people = told.people();
    boolean asks = told.asks();
    List<DailyFigures.Day> days = figures.ofMonth(account);
    List<ExposureFigures.Since> exposed =
        asks && !days.isEmpty()
            ? exposures.since(ExposureFigures.Of.ACCOUNT, account.value(), days.getFirst().day())
            : List.of();
    return new AccountFigures(
        days.stream()
            .map(it -> {
              ExposureFigures.Figure on =
                  exposed.stream()
                      .filter(each -> !each.day().isAfter(it.day()))
                      .reduce((_, later) -> later)
                      .map(ExposureFigures.Since::figure)
                      .orElse(null);
              return new FiguresOfDay(
                  it.day(),
                  people ? it.counts().people() : null,
                  people ? it.counts().guests() : null,
                  people ? it.counts().services() : null,
                  people ? it.counts().dormant() : null,
                  asks ? it.counts().findings() : null,
                  on == null ? null : on.exposure(),
                  on == null ? null : on.unused());
            })
            .toList());
  }
}
