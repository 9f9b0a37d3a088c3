using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>What people read has the words of the trade: a list of odd ones, with what is written instead, is kept out of pages, mails,
/// findings and messages, and another out of comments.</summary>
public partial class WordsTests
{
    // The odd words, and what a coordinator understands at first reading.
    private static readonly (string Odd, string Instead)[] Screens =
    [
        (@"put away|puts? (\w+ )?away", "archive"),
        (@"call(s|ed|ing)? (\w+ )?off", "cancel"),
        (@"\bfetch\w*", "download"),
        (@"\bkept\b|\bKeep a\b", "saved"),
        (@"\bbring(s|ing)? (it|them|a file)", "import"),
        (@"^\s*begin with\s*$", "start from a template"),
        (@"\bt(ake|akes|aken|ook) (it |this |them |a token )?back\b", "undo"),
        (@"\banew\b|\blook, or\b", "again, or change"),
        (@"what changed in", "changes in"),
        (@"says? otherwise", "differ"),
        (@"state of the site", "site status"),
        (@"servers that take", "workers"),
        (@"\byour part\b|the part of", "role"),
        (@"\bthe record\b", "activity log"),
        (@"\bnever decides|>decides<", "matches"),
        (@"ask an element", "why is it in or out?"),
        (@"what goes and what stays|\bstays\b", "included, left out"),
        (@"\bthings?\b", "items"),
        (@"\bunaccounted\b(?! for)", "unaccounted for"),
        (@"\bnot carried\b", "not transferable"),
        (@"found again", "confirmed in the file"),
        (@"\btak(e|en|es|ing) (\w+ )?apart", "explode"),
        (@"\bdrop (the \w+ )?layers", "delete layers"),
        (@"drawing desk|\bits desk\b", "drawing preparation"),
        (@"\bcomes as\b|\bgoes as\b", "received name, issued name"),
        (@"chords off", "chord tolerance"),
        (@"outer skins?", "outer surfaces only"),
        (@"release the scale", "allow the scale to vary"),
        (@"good (until|once|no more)", "expires on"),
        (@"\b(told|tells)\b|\bis said\b", "shown, reported"),
        (@"nothing over it", "no overlay"),
        (@"\b(lies|stands)\b", "is at"),
        (@"\bthe ticked\b|\btick the\b", "the selected"),
        (@"\bby (itself|themselves)\b", "automatically"),
        (@"crosses its edge", "objects that cross the edge"),
        (@"gives? the job its frame", "reference for the job's coordinates"),
        (@"\bnot said\b", "not stated"),
        (@"one thing more", "one more step"),
        (@"^in order$", "no problems"),
        (@"start afresh", "empty job"),
    ];

    private static readonly string[] Comments =
    [
        @"\bstands\b",
        @"\b(is|are|was) told\b",
        @"\btold apart\b",
        @"\btaken apart\b",
        @"\bgiven on\b",
        @"\banew\b",
        @"\bcalled off\b",
        @"goes? in circles",
        @"that packing would",
    ];

    public static TheoryData<string> Files() =>
        [
            .. Directory
                .EnumerateFiles(Path.Combine(Root(), "src"), "*", SearchOption.AllDirectories)
                .Where(f => Path.GetExtension(f) is ".cs" or ".cshtml" or ".js" && !Made().IsMatch(f))
                .Select(f => Path.GetRelativePath(Root(), f))
                .GroupBy(f => string.Join('/', f.Split('/').Take(3)))
                .Select(g => g.Key)
                .Order(StringComparer.Ordinal),
        ];

    [Theory]
    [MemberData(nameof(Files))]
    public void What_people_read_has_no_odd_words(string folder)
    {
        var found = new List<string>();
        foreach (string file in Sources(folder))
        foreach (var (text, line) in Visible(file))
        foreach (var (odd, instead) in Screens)
            if (Regex.Match(text, odd, RegexOptions.IgnoreCase) is { Success: true } match)
                found.Add(
                    $"{Path.GetRelativePath(Root(), file)}:{line}: '{match.Value}', write {instead}: {text.Trim()}"
                );
        Assert.True(found.Count == 0, string.Join("\n", found));
    }

    // What help shows is written in documents.
    [Fact]
    public void What_help_shows_has_no_odd_words()
    {
        string[] files =
        [
            .. Directory.EnumerateFiles(Path.Combine(Root(), "docs", "recipes")),
            Path.Combine(Root(), "docs", "findings.md"),
            Path.Combine(Root(), "docs", "glossary.md"),
        ];
        var found = files
            .SelectMany(f =>
                File.ReadLines(f)
                    .Select((l, n) => (Line: l, Number: n + 1))
                    .SelectMany(l =>
                        Screens
                            .Select(s =>
                                (
                                    s.Instead,
                                    Match: Regex.Match(
                                        Regex.Replace(l.Line, "`[^`]*`", ""),
                                        s.Odd,
                                        RegexOptions.IgnoreCase
                                    )
                                )
                            )
                            .Where(m => m.Match.Success)
                            .Select(m => $"{Path.GetFileName(f)}:{l.Number}: '{m.Match.Value}', write {m.Instead}")
                    )
            )
            .ToList();
        Assert.True(found.Count == 0, string.Join("\n", found));
    }

    [Theory]
    [MemberData(nameof(Files))]
    public void Comments_have_plain_words(string folder)
    {
        var found = Sources(folder)
            .Where(f => !f.EndsWith(".cshtml", StringComparison.Ordinal))
            .SelectMany(f =>
                File.ReadLines(f)
                    .Select((l, n) => (Line: l, Number: n + 1))
                    .Where(l => CommentLine().IsMatch(l.Line) && Comments.Any(c => Regex.IsMatch(l.Line, c)))
                    .Select(l => $"{Path.GetRelativePath(Root(), f)}:{l.Number}: {l.Line.Trim()}")
            )
            .ToList();
        Assert.True(found.Count == 0, string.Join("\n", found));
    }

    // The test itself: it sees an odd word in each place where there are words.
    [Theory]
    [InlineData("a.cs", "throw new OrderException(\"It stays there.\");")]
    [InlineData("a.cs", "return $\"The {x} is not said.\";")]
    [InlineData("a.cshtml", "<p class=\"lead\">Fetch it</p>")]
    [InlineData("a.cshtml", "<input placeholder=\"the ticked\">")]
    [InlineData("a.cshtml", "@(x ? \"taken apart\" : \"\")")]
    [InlineData("a.js", "text.textContent = `It lies there`;")]
    public void Odd_words_are_seen(string name, string line) =>
        Assert.Contains(Words(name, line), t => Screens.Any(s => Regex.IsMatch(t, s.Odd, RegexOptions.IgnoreCase)));

    private static IEnumerable<string> Sources(string folder) =>
        (
            Directory.Exists(Path.Combine(Root(), folder))
                ? Directory.EnumerateFiles(Path.Combine(Root(), folder), "*", SearchOption.AllDirectories)
                : [Path.Combine(Root(), folder)]
        ).Where(f => Path.GetExtension(f) is ".cs" or ".cshtml" or ".js" && !Made().IsMatch(f));

    private static IEnumerable<(string Text, int Line)> Visible(string file) =>
        File.ReadLines(file).SelectMany((line, n) => Words(file, line).Select(t => (t, n + 1)));

    // The words of a line that reach a screen: literals with a blank in them, text between tags, and attributes that are read out.
    private static IEnumerable<string> Words(string file, string line)
    {
        if (CommentLine().IsMatch(line) || Logged().IsMatch(line))
            return [];
        var literals = Literal()
            .Matches(line)
            .Select(m => Hole().Replace(m.Groups[1].Value + m.Groups[2].Value, "…"))
            .Where(t => t.Contains(' ') && !Code().IsMatch(t));
        if (!file.EndsWith(".cshtml", StringComparison.Ordinal))
            return literals;
        string plain = Unread().Replace(line, "");
        return
        [
            .. Literal().Matches(plain).Select(m => Hole().Replace(m.Groups[1].Value, "…")).Where(t => t.Contains(' ')),
            .. Between().Matches(plain).Select(m => m.Groups[1].Value),
        ];
    }

    private static string Root()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    [GeneratedRegex(@"/(obj|bin|lib|node_modules|Migrations)/")]
    private static partial Regex Made();

    [GeneratedRegex(@"^\s*(//|\*|/\*|@\*)")]
    private static partial Regex CommentLine();

    [GeneratedRegex(@"\blog\.Log|\.LogWarning|\.LogInformation")]
    private static partial Regex Logged();

    [GeneratedRegex("\"((?:[^\"\\\\\n]|\\\\.)*)\"|[`']((?:[^`'\\\\\n]|\\\\.)*)[`']")]
    private static partial Regex Literal();

    [GeneratedRegex(@"\$?\{[^{}]*\}")]
    private static partial Regex Hole();

    [GeneratedRegex(@"\b(SELECT|UPDATE|WHERE|INSERT)\b|=>|;$|^, ")]
    private static partial Regex Code();

    [GeneratedRegex(
        "\\b(?:href|src|class|id|name|for|list|value|type|action|formaction|hx-(?!confirm)[\\w-]+|data-(?!confirm)[\\w-]+|asp-[\\w-]+)=\"[^\"]*\""
    )]
    private static partial Regex Unread();

    [GeneratedRegex(@">([^<>@{}()=]+)<")]
    private static partial Regex Between();
}
