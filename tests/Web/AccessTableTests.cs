using System.Net;
using System.Reflection;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

/// <summary>Who may what: every handler of every page inside a job, found in the program itself, for every part that a person can
/// have.</summary>
public partial class AccessTableTests(DemoServer demo) : IClassFixture<DemoServer>
{
    // By page and handler: who may. C coordinator, O contributor of another party, R reader, P recipient; the rest and strangers may not.
    // Handlers of one's own party are tried on another party's delivery.
    private static readonly Dictionary<string, string> Table = new()
    {
        ["Sheet Get"] = "COR",
        ["Receive Get"] = "COR",
        ["Receive Get List"] = "COR",
        ["Receive Get Suggest"] = "COR",
        ["Receive Get Originals"] = "COR",
        ["Receive Post Lock"] = "C",
        ["Receive Post Unlock"] = "C",
        ["Receive Post Begin"] = "C",
        ["Receive Post Piece"] = "C",
        ["Receive Post Complete"] = "C",
        ["Receive Post Cancel"] = "C",
        ["Delivery Get"] = "CR",
        ["Delivery Get Plan"] = "CR",
        ["Delivery Get Json"] = "CR",
        ["Delivery Get Csv"] = "CR",
        ["Delivery Get Original"] = "CR",
        ["Delivery Post Convert"] = "CR",
        ["Delivery Post Converted"] = "CR",
        ["Delivery Post TurnDown"] = "C",
        ["Delivery Post Use"] = "C",
        ["Delivery Post Withdraw"] = "C",
        ["SetOut Get"] = "COR",
        ["SetOutSource Get"] = "COR",
        ["SetOutSource Post Points"] = "COR",
        ["SetOutSource Get File"] = "COR",
        ["SetOutSource Get Corners"] = "COR",
        ["SetOutSource Post Preview"] = "COR",
        ["SetOutSource Post Accept"] = "C",
        ["SetOutSource Post TakeBack"] = "C",
        ["Levels Get"] = "COR",
        ["Levels Post Level"] = "C",
        ["Levels Post Remove"] = "C",
        ["Levels Post Match"] = "C",
        ["Levels Post Offset"] = "C",
        ["Levels Post From"] = "C",
        ["Levels Post Confirm"] = "C",
        ["Levels Post Reference"] = "C",
        ["Compare Get"] = "COR",
        ["Compare Get Csv"] = "COR",
        ["Compare Get Json"] = "COR",
        ["Compare Post Jump"] = "C",
        ["Desk Get"] = "CR",
        ["Desk Post Snaps"] = "CR",
        ["Desk Post Preview"] = "CR",
        ["Desk Post Picture"] = "CR",
        ["Desk Post File"] = "CR",
        ["Desk Post Overlay"] = "CR",
        ["Desk Post Keep"] = "C",
        ["Desk Post Accept"] = "C",
        ["Desk Post TakeBack"] = "C",
        ["CompareDrawing Get"] = "CR",
        ["CompareDrawing Get Picture"] = "CR",
        ["Details Get"] = "COR",
        ["Details Get Picture"] = "COR",
        ["Details Get File"] = "COR",
        ["Details Post Sheet"] = "COR",
        ["Details Post Remove"] = "C",
        ["Members Get"] = "COR",
        ["Members Get Csv"] = "COR",
        ["Combine Get"] = "COR",
        ["Combine Get Amended"] = "COR",
        ["Combine Get Changes"] = "COR",
        ["Combine Get Sheet"] = "COR",
        ["Combine Get Item"] = "COR",
        ["Combine Get Drawings"] = "COR",
        ["Combine Get Scene"] = "COR",
        ["Combine Get Picture"] = "COR",
        ["Combine Get Elements"] = "COR",
        ["Combine Get Chunk"] = "COR",
        ["Combine Get Facts"] = "COR",
        ["Combine Post Amend"] = "CO",
        ["Combine Post Keep"] = "C",
        ["Amendments Get"] = "COR",
        ["Amendments Get File"] = "COR",
        ["Amendments Post Decide"] = "CO",
        ["Amendments Post Answer"] = "CO",
        ["Amendments Post Protect"] = "CO",
        ["Amendments Post Import"] = "CO",
        ["Resolve Get"] = "COR",
        ["Resolve Get File"] = "COR",
        ["Resolve Get Live"] = "COR",
        ["Resolve Post Import"] = "CO",
        ["Resolve Post Store"] = "CO",
        ["Resolve Post Remove"] = "CO",
        ["Resolve Post Mails"] = "COR",
        ["TopicServers Get"] = "COR",
        ["TopicServers Get List"] = "COR",
        ["TopicServers Get SignIn"] = "C",
        ["TopicServers Post Add"] = "C",
        ["TopicServers Post Choose"] = "C",
        ["TopicServers Post Now"] = "CO",
        ["TopicServers Post Decide"] = "CO",
        ["TopicServers Post Remove"] = "C",
        ["TopicReport Get"] = "COR",
        ["TopicReport Get Pdf"] = "COR",
        ["TopicReport Get Xlsx"] = "COR",
        ["TopicFigures Get"] = "COR",
        ["Ask Get"] = "CO",
        ["Ask Post"] = "CO",
        // The topic is handed to STR, whose recipient sees and answers it.
        ["Topic Get"] = "CORP",
        ["Topic Get Picture"] = "CORP",
        ["Topic Get Part"] = "CORP",
        ["Topic Get Document"] = "CORP",
        ["Topic Get File"] = "CORP",
        ["Topic Get Live"] = "CORP",
        ["Topic Post Answer"] = "COP",
        ["Topic Post Save"] = "CO",
        ["Topic Post Comment"] = "COP",
        ["TopicImport Get"] = "CO",
        ["TopicImport Post"] = "CO",
        ["TopicImport Post Discard"] = "CO",
        ["TopicWords Get"] = "C",
        ["TopicWords Post"] = "C",
        ["Properties Get"] = "COR",
        ["Properties Get File"] = "COR",
        ["Properties Get Number"] = "COR",
        ["Properties Post Check"] = "COR",
        ["Properties Post Save"] = "CO",
        ["Properties Post Import"] = "CO",
        ["Properties Post Accept"] = "CO",
        // Numbers go to all rows, which are of other parties too.
        ["Properties Post Number"] = "C",
        ["Properties Post Compute"] = "CO",
        ["Properties Post All"] = "CO",
        ["Element Get"] = "COR",
        ["Element Get File"] = "CR",
        ["Element Post Amend"] = "CO",
        ["ModelData Get"] = "COR",
        ["ModelData Post"] = "CO",
        ["Library Get"] = "COR",
        ["Library Get File"] = "COR",
        ["Library Post Keep"] = "C",
        ["Library Post Standard"] = "C",
        ["Library Post Start"] = "C",
        ["Library Post Remove"] = "C",
        ["Library Post Match"] = "C",
        ["Handover Get"] = "COR",
        ["Handover Post New"] = "C",
        ["Handover Post Stale"] = "C",
        ["Handover Post Restore"] = "C",
        ["Order Get"] = "COR",
        ["Order Get Runs"] = "COR",
        ["Order Get Zip"] = "COR",
        ["Order Get Receipt"] = "COR",
        ["Order Get Values"] = "COR",
        ["Order Get Compare"] = "COR",
        ["Order Post Lines"] = "COR",
        ["Order Post Rules"] = "COR",
        ["Order Post Why"] = "COR",
        ["Order Post Sign"] = "C",
        ["Order Post Preview"] = "COR",
        ["Order Post Save"] = "C",
        ["Order Post Run"] = "C",
        ["Order Post Cancel"] = "C",
        ["Order Post Copy"] = "C",
        ["Order Post Delete"] = "C",
        ["Setup Get"] = "C",
        ["Setup Post Job"] = "C",
        ["Setup Post Party"] = "C",
        ["Setup Post RemoveParty"] = "C",
        ["Setup Post Source"] = "C",
        ["Setup Post Retire"] = "C",
        ["Setup Post Archive"] = "C",
        ["Setup Post Delete"] = "C",
        ["Setup Post Limits"] = "C",
        ["Setup Post Inches"] = "C",
        ["People Get"] = "C",
        ["People Post Invite"] = "C",
        ["People Post Withdraw"] = "C",
        ["People Post Change"] = "C",
        ["People Post Remove"] = "C",
        ["Record Get"] = "C",
        ["Record Get Csv"] = "C",
        ["Delivered Get"] = "OP",
        ["Delivered Get File"] = "OP",
        ["Delivered Get All"] = "OP",
        ["Delivered Get Picture"] = "OP",
        ["Delivered Get Changes"] = "OP",
        ["Delivered Post Confirm"] = "OP",
    };

    private static readonly (char Letter, string Who)[] People =
    [
        ('C', "coordinator"),
        ('O', "services"),
        ('R', "reader"),
        ('P', "recipient"),
        ('-', "stranger"),
    ];

    private static IEnumerable<string> Handlers() =>
        typeof(JobPage)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(JobPage)))
            .SelectMany(t =>
                t.GetMethods(BindingFlags.Instance | BindingFlags.Public)
                    .Select(m => (Page: t.Name[..^"Model".Length], Match: Handler().Match(m.Name)))
            )
            .Where(h => h.Match.Success)
            .Select(h => $"{h.Page} {h.Match.Groups[1].Value} {h.Match.Groups[2].Value}".Trim());

    [Fact]
    public void Every_handler_has_its_line_and_every_line_its_handler() =>
        Assert.Equal(Handlers().Distinct().Order(), Table.Keys.Order());

    [Fact]
    public void Every_page_with_a_person_on_it_is_closed_to_those_who_are_not_signed_in()
    {
        // What must be open so that one can sign in, come for the first time or look at mails that go nowhere.
        string[] open =
        [
            "SignInModel",
            "SignInCodeModel",
            "SignOutModel",
            "FirstAccountModel",
            "InvitationModel",
            "ForgotModel",
            "InboxModel",
            "ErrorModel",
            "BeginModel",
            "DoneModel",
            // A calendar cannot sign in: the key in its address says whose it is.
            "CalendarModel",
        ];
        var closed = typeof(JobPage)
            .Assembly.GetTypes()
            .Where(t => t.IsSubclassOf(typeof(PageModel)) && !t.IsAbstract)
            .Where(t => t.GetCustomAttribute<Microsoft.AspNetCore.Authorization.AuthorizeAttribute>(true) is null)
            .Select(t => t.Name);
        Assert.Equal(open.Order(), closed.Order());
    }

    [Fact]
    public async Task Each_may_what_the_table_says_and_nothing_else()
    {
        using var coordinator = await demo.SignedInAsync("coordinator");
        // A delivery, an element, a chunk of ARC, which the contributor and the recipient do not belong to.
        string list = await coordinator.GetAsync("/jobs/HW/receive?handler=List");
        string delivery = Regex
            .Match(list, "data-delivery=\"([0-9a-f-]+)\"(?:(?!</tr>).)*HW-ARC", RegexOptions.Singleline)
            .Groups[1]
            .Value;
        string chunk = Regex
            .Match(await coordinator.GetAsync("/jobs/HW/combine?handler=Scene"), "\"hash\":\"([0-9a-f]{64})\"")
            .Groups[1]
            .Value;
        string party = await coordinator.PartyAsync("ARC");
        string source = Regex
            .Match(await coordinator.GetAsync("/jobs/HW/setout"), "/setout/([0-9a-f-]{36})")
            .Groups[1]
            .Value;
        string desk = Regex
            .Match(await coordinator.GetAsync("/jobs/HW/setout"), "/desk/([0-9a-f-]{36})")
            .Groups[1]
            .Value;
        (await coordinator.FormAsync("/jobs/HW/handover", "New")).EnsureSuccessStatusCode();
        await coordinator.PostAsync("/jobs/HW/ask?Form.Title=Riser&Form.Assigned=STR");
        string topic = Regex.Match(await coordinator.GetAsync("/jobs/HW/resolve"), "/topics/([0-9]+)").Groups[1].Value;
        var wrong = new List<string>();
        foreach (var (letter, who) in People)
        {
            using var client = await demo.SignedInAsync(who);
            await client.TokenAsync("/");
            foreach (var (handler, may) in Table)
            {
                string[] words = handler.Split(' ');
                string page = words[0] switch
                {
                    "Sheet" => "",
                    "Delivery" => $"/deliveries/{delivery}",
                    "Order" => "/handover/1",
                    "SetOutSource" => $"/setout/{source}",
                    "Desk" => $"/desk/{desk}",
                    "CompareDrawing" => $"/comparedrawing/{desk}",
                    "Compare" => $"/compare/{source}",
                    "Element" => "/elements/0HQs7vdssW9MWoNrqiwDgr",
                    "ModelData" => $"/sources/{source}/model",
                    "Topic" => $"/topics/{topic}",
                    "TopicImport" => $"/topics/import/{delivery}",
                    "TopicWords" => "/topics/words",
                    "TopicReport" => "/topics/report",
                    "TopicFigures" => "/topics/figures",
                    var name => "/" + name.ToLowerInvariant(),
                };
                string path =
                    $"/jobs/HW{page}?id={(words[0] == "Levels" ? "0" : delivery)}&number=0&source={source}&hash={chunk}&party={party}&fileName=a.ifc&length=10&name=none"
                    + (words.Length > 2 ? $"&handler={words[2]}" : "");
                var status = (
                    words[1] == "Get" ? await client.Http.GetAsync(path) : await client.PostAsync(path)
                ).StatusCode;
                bool refused =
                    status is HttpStatusCode.Forbidden or HttpStatusCode.NotFound or HttpStatusCode.Unauthorized;
                // What there is none of (a finished upload, a file of a run, a plan of a model) is not there for those who may, either.
                bool open = !refused || (may.Contains(letter) && status == HttpStatusCode.NotFound);
                // A recipient who asks for the job is led to what was handed over.
                if (letter == 'P' && words[0] == "Sheet")
                    continue;
                if (open != may.Contains(letter))
                    wrong.Add($"{who}: {handler} gives {(int)status}");
            }
        }

        Assert.Empty(wrong);
    }

    [GeneratedRegex("^On(Get|Post)(\\w*?)(?:Async)?$")]
    private static partial Regex Handler();
}
