package mandala.server.question;

import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.ChangeText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Reads questions that are typed into the search. */
@RestController
@RequestMapping("/api/ask/typed")
class TypedController {

  /** Longer texts are read as far as this. */
  private static final int MOST = 200;

  private final RequestContexts contexts;

  TypedController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  /** Something that a question names. */
  record TypedName(String key, String name, String note) {
    static @Nullable TypedName of(TypedQuestion.@Nullable Named it) {
      return it == null ? null : new TypedName(it.key(), it.name(), it.note());
    }
  }

  /**
   * What was understood of a text.
   *
   * @param form {@code access}, {@code who}, {@code why}, {@code escalation}, {@code difference},
   *     {@code side-by-side}; null where nothing was understood
   * @param asked whether the text asks that, or only names what it could be about
   * @param unknown words that were not understood
   */
  record TypedView(
      @Nullable String form,
      boolean asked,
      @Nullable TypedName person,
      @Nullable TypedName other,
      @Nullable TypedName permission,
      @Nullable TypedName place,
      List<String> unknown) {
    static final TypedView NOTHING = new TypedView(null, false, null, null, null, null, List.of());
  }

  /**
   * Reads a question.
   *
   * @param account the one that the viewer works in: of things with one name its own comes first
   */
  @GetMapping
  TypedView typed(
      @RequestParam(defaultValue = "") String text,
      @RequestParam(required = false) @Nullable String account) {
    RequestContext context = contexts.context();
    String read = text.length() > MOST ? text.substring(0, MOST) : text;
    TypedQuestion.Understood it = TypedQuestion.of(read, new Nameable(context, account));
    return it == null
        ? TypedView.NOTHING
        : new TypedView(
            it.form().word(),
            it.asked(),
            TypedName.of(it.person()),
            TypedName.of(it.other()),
            TypedName.of(it.permission()),
            TypedName.of(it.place()),
            it.unknown());
  }

  /** What a viewer may name; that of the account they work in comes first. */
  private static final class Nameable implements TypedQuestion.Names {

    private final RequestContext context;
    private final Catalogue catalogue;
    private final ChangeText text;
    private final @Nullable AccountKey near;

    Nameable(RequestContext context, @Nullable String account) {
      this.context = context;
      Engine engine = context.state().engine();
      catalogue = engine.catalogue();
      text = context.text();
      Principal self = catalogue.principals().get(context.readPolicy().viewer());
      near =
          account == null || account.isBlank()
              ? self == null ? null : self.account()
              : new AccountKey(account);
    }

    @Override
    public TypedQuestion.Named self() {
      String viewer = context.readPolicy().viewer().value();
      return new TypedQuestion.Named(viewer, text.name(Kind.PRINCIPALS, viewer), "you");
    }

    @Override
    public Stream<TypedQuestion.Named> people(TypedQuestion.Fits fits) {
      return context.state().people().all().stream()
          .filter(it -> fits.test(it.key().value(), it.about().nameOr(it.key())))
          .filter(it -> !(context.readPolicy().cutFor(it) instanceof ReadPolicy.Cut.Nothing))
          .sorted(Comparator.comparing(it -> !it.account().equals(near)))
          .map(it ->
              new TypedQuestion.Named(
                  it.key().value(),
                  it.about().nameOr(it.key()),
                  text.name(Kind.ACCOUNTS, it.account().value())));
    }

    @Override
    public Stream<TypedQuestion.Named> permissions(TypedQuestion.Fits fits) {
      return catalogue.permissions().values().stream()
          .filter(it -> fits.test(it.key().value(), it.about().nameOr(it.key())))
          .filter(it -> context.naming().tells(Kind.PERMISSIONS, it.key().value()))
          .map(it -> new TypedQuestion.Named(it.key().value(), it.about().nameOr(it.key()), ""));
    }

    @Override
    public Stream<TypedQuestion.Named> places(TypedQuestion.Fits fits) {
      return Stream.of(
              catalogue.accounts().keySet().stream().map(ResourceKey::of),
              catalogue.units().keySet().stream().map(ResourceKey::of),
              catalogue.resources().keySet().stream())
          .flatMap(it -> it)
          .filter(it -> fits.test(it.value(), catalogue.nameOf(it)))
          .filter(it -> context.naming().tells(it))
          .sorted(Comparator.comparing(it -> !isNear(it)))
          .map(it -> new TypedQuestion.Named(it.value(), catalogue.nameOf(it), note(it)));
    }

    private boolean isNear(ResourceKey place) {
      AccountKey account = catalogue.accountOf(place);
      return account != null && account.equals(near);
    }

    private String note(ResourceKey place) {
      AccountKey account = catalogue.accountOf(place);
      return account == null ? "" : text.name(Kind.ACCOUNTS, account.value());
    }
  }
}
