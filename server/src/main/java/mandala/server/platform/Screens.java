package mandala.server.platform;

import org.springframework.stereotype.Controller;
import org.springframework.web.bind.annotation.GetMapping;

/** Every address of a screen is answered by the one page, which reads the address itself. */
@Controller
class Screens {

  @GetMapping({
    "/",
    "/people/**",
    "/watch-rules/**",
    "/personnel/**",
    "/groups/**",
    "/rights/**",
    "/places/**",
    "/trail/**",
    "/drafts/**",
    "/ask/**",
    "/checks/**",
    "/reviews/**",
    "/look/**",
    "/side/**",
    "/settings/**",
    "/use",
    "/you/**",
    "/sign-in",
    "/join",
    "/bring-in",
    "/welcome"
  })
  String screen() {
    return "forward:/index.html";
  }
}
