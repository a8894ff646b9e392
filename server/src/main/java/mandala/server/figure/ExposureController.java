package mandala.server.figure;

import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who is exposed how much, and how much of it they do not use. */
@RestController
@RequestMapping("/api/exposure")
class ExposureController {

  private final ExposureFigures figures;
  private final RequestContexts contexts;

  ExposureController(ExposureFigures figures, RequestContexts contexts) {
    this.figures = figures;
    this.contexts = contexts;
  }

  /**
   * People by the exposure that they do not use, the most first.
   *
   * @param countedAt when that was counted; absent before the first time
   * @param total how many people have any exposure, of those whose whole access the viewer may see
   */
  record ExposedPeople(@Nullable Instant countedAt, List<ExposedPerson> people, int total) {}

  /**
   * A person or service.
   *
   * @param unused the part of the exposure that is not used, in the window of the policy
   */
  record ExposedPerson(
      String key, String name, String account, long rights, long exposure, long unused) {}

  /**
   * Lists people by unused exposure.
   *
   * @param account of those at home in it or below it; of all where absent
   */
  @GetMapping
  ExposedPeople people(
      @RequestParam(required = false) @Nullable @Size(max = 200) String account,
      @RequestParam(defaultValue = "500") @Min(1) @Max(2000) int most) {
    RequestContext context = contexts.context();
    ReadPolicy policy = context.readPolicy();
    Catalogue catalogue = context.state().engine().catalogue();
    if (!policy.mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the people of any account. Ask a security administrator.");
    }
    AccountKey within = account == null || account.isBlank() ? null : new AccountKey(account);
    if (within != null && !(catalogue.accounts().containsKey(within) && policy.mayRead(within))) {
      throw Problem.notFound("There is no account '" + account + "' that you may read.");
    }
    ExposureFigures.Newest newest = figures.newest();
    List<ExposedPerson> all = new ArrayList<>();
    newest
        .people()
        .forEach((key, it) -> {
          Principal who = catalogue.principals().get(key);
          if (who != null
              && it.exposure() > 0
              && (within == null || catalogue.isAtOrBelow(who.account(), within))
              && policy.maySeeAllOf(key)) {
            all.add(
                new ExposedPerson(
                    key.value(),
                    who.about().nameOr(key),
                    context.text().name(Kind.ACCOUNTS, who.account().value()),
                    it.rights(),
                    it.exposure(),
                    it.unused()));
          }
        });
    all.sort(
        Comparator.comparingLong(ExposedPerson::unused)
            .reversed()
            .thenComparing(ExposedPerson::key));
    return new ExposedPeople(
        newest.countedAt().equals(Instant.MIN) ? null : newest.countedAt(),
        all.stream().limit(most).toList(),
        all.size());
  }
}
