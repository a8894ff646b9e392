"""A small client of another language: asks each form of question and prints one JSON line for each.

Usage: outside_client.py ADDRESS NAME PASSWORD CODE. Only the standard library.
"""

import http.cookiejar
import json
import sys
import urllib.error
import urllib.parse
import urllib.request

address, name, password, code = sys.argv[1:]
jar = http.cookiejar.CookieJar()
opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))


def call(method, path, body=None, **query):
    url = address + path + ("?" + urllib.parse.urlencode(query, doseq=True) if query else "")
    request = urllib.request.Request(url, method=method)
    request.add_header("Content-Type", "application/json")
    for cookie in jar:
        if cookie.name == "XSRF-TOKEN":
            request.add_header("X-XSRF-TOKEN", cookie.value)
    data = None if body is None else json.dumps(body).encode()
    with opener.open(request, data) as answer:
        return json.loads(answer.read() or b"null")


def tell(question, **facts):
    print(json.dumps({"question": question, **facts}))


call("GET", "/api/session")
call("POST", "/api/session", {"name": name, "password": password, "code": code})

who, other = "odile.farrow", "noor.haddad"
access = call("GET", "/api/ask/access", principal=who, secondFactor="true", doors="true")
tell("what", rights=access["figure"]["rights"])


def first(regions):
    for region in regions:
        for cell in region["cells"]:
            if cell["allowed"] > 0 and cell.get("sample"):
                return cell
        found = first(region["below"])
        if found:
            return found
    return None


cell = first(access["regions"])
asked = {
    "principal": who,
    "permission": cell["permission"],
    "resource": cell["sample"],
    "secondFactor": "true",
}
routes = call("GET", "/api/ask/routes", **asked)
tell("why", verdict=routes["verdict"], live=len(routes["live"]))
ways = call("GET", "/api/ask/remedies", **asked)
tell("ways", end=len(ways["end"]), give=len(ways["give"]))
holders = call("GET", "/api/ask/who", permission=cell["permission"], on=cell["sample"])
tell("who", among=who in [it["key"] for it in holders["allowed"]])
difference = call("GET", "/api/ask/difference", one=who, other=other)
tell(
    "difference",
    one=difference["one"]["figure"]["rights"],
    other=difference["other"]["figure"]["rights"],
    gained=difference["gained"],
    lost=difference["lost"],
)
tell("checks", findings=len(call("GET", "/api/checks")["findings"]))
try:
    call("GET", "/api/ask/who", permission="no.such", on=cell["sample"])
except urllib.error.HTTPError as refused:
    problem = json.loads(refused.read())
    tell("refused", status=refused.code, type=refused.headers["Content-Type"], detail=problem["detail"])
