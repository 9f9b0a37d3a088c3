using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Web;

/// <summary>The demo's topics: in every state, on several storeys, from the combined view and from two topic files.</summary>
/// <param name="db">The database.</param>
/// <param name="editing">Asks and answers.</param>
/// <param name="exchange">Imports.</param>
internal sealed class DemoTopics(LintelDb db, TopicEditing editing, TopicExchange exchange)
{
    private static readonly JobPermissions Writes = new(MemberRole.Coordinator, null, false, false);

    private readonly DemoScene _scene = new();

    private JobState _state = null!;

    private Actor _coordinator = null!,
        _services = null!;

    /// <summary>Makes them, once the models are read.</summary>
    public async Task MakeAsync(CancellationToken cancel)
    {
        var job = await db.Jobs.AsNoTracking().FirstAsync(j => j.Code == "HW", cancel);
        if (await db.Topics.AnyAsync(t => t.JobId == job.Id, cancel))
            return;
        _state = await JobState.LoadAsync(db, job.Id, cancel);
        (_coordinator, _services) = (await PersonAsync("coordinator"), await PersonAsync("services"));
        await RiserAsync(cancel);
        await OthersAsync(cancel);
        var files = new DemoTopicFiles(_scene);
        await ImportAsync("HW-STR-review.bcf", files.Structure(), _coordinator, cancel);
        await ImportAsync("HW-SRV-questions.bcfzip", files.Services(), _services, cancel);
    }

    // One with a thread: asked, answered, asked again.
    private async Task RiserAsync(CancellationToken cancel)
    {
        string[] about = [.. _scene.Find(2, "IfcPipeSegment", "Gallery"), .. _scene.Find(1, "IfcBeam", "Gallery")];
        int riser = await AskAsync(
            new TopicWish
            {
                Title = "Riser through beam",
                Description =
                    "The riser has to pass here; the shaft is fixed by the fire wall. Can the beam take a hole of 320 mm?",
                Type = "Collision",
                Priority = "High",
                Assigned = "STR",
                Due = In(4),
                Labels = ["openings"],
            },
            about,
            _services,
            cancel
        );
        await AnswerAsync(
            riser,
            "Not in the middle third. 280 mm below the neutral axis, or move it 600 mm to grid C.",
            "Answered",
            "services@heron.example",
            _coordinator,
            cancel
        );
        await AnswerAsync(
            riser,
            "Moved 600 mm to grid C in the next revision. Please look. @STR",
            "Open",
            "STR",
            _services,
            cancel
        );
    }

    private async Task OthersAsync(CancellationToken cancel)
    {
        await AskAsync(
            new TopicWish
            {
                Title = "Fire rating of the gallery doors",
                Description = "The fire concept asks for EI 30 here; the doors have no rating.",
                Type = "Request",
                Priority = "Normal",
                Assigned = "ARC",
                Due = In(2),
                Labels = ["properties"],
            },
            _scene.Find(0, "IfcDoor", "Gallery", 3),
            _coordinator,
            cancel
        );
        await AskAsync(
            new TopicWish
            {
                Title = "Purlin ends short of the rafter",
                Type = "Finding",
                Priority = "High",
                Assigned = "STR",
                Due = In(-1),
            },
            _scene.Find(1, "IfcBeam", "Roof", 2),
            _coordinator,
            cancel
        );
        int frame = await AskAsync(
            new TopicWish
            {
                Title = "Services model moved between its revisions",
                Description = "The second revision is 1.5 m away from the first. Which base point is right?",
                Type = "Question",
                Priority = "High",
                Assigned = "SRV",
                Due = In(3),
                Labels = ["coordinates"],
            },
            _scene.Find(2, "IfcDuctSegment", "Concourse", 2),
            _coordinator,
            cancel
        );
        await AnswerAsync(
            frame,
            "The first one. We will send it again from the old base point.",
            "Answered",
            "",
            _services,
            cancel
        );
        int closed = await AskAsync(
            new TopicWish
            {
                Title = "Stair flight without a railing",
                Type = "Question",
                Assigned = "ARC",
            },
            _scene.Find(0, "IfcStairFlight", "Concourse"),
            _coordinator,
            cancel
        );
        await AnswerAsync(closed, "The railing is in the next revision.", "Closed", null, _coordinator, cancel);
        await AskAsync(
            new TopicWish
            {
                Title = "Threshold height at the quay",
                Description = "The drawing says +0.150, the model ±0.000.",
                Type = "Question",
                Assigned = "ARC",
                Labels = ["levels"],
            },
            _scene.Find(0, "IfcDoor", "Quay level"),
            _services,
            cancel
        );
    }

    private async Task<int> AskAsync(TopicWish wish, string[] elements, Actor by, CancellationToken cancel)
    {
        var view = _scene.Around(elements);
        var (number, _) = await editing.AskAsync(
            _state,
            Writes,
            wish with
            {
                View = ViewTranslation.FromDocument(
                    Guid.NewGuid().ToString(),
                    view,
                    true,
                    view.Hidden,
                    DemoScene.Aspect
                ),
                Picture = _scene.Picture(view),
            },
            by,
            cancel
        );
        return number;
    }

    private Task AnswerAsync(int number, string text, string status, string? to, Actor by, CancellationToken cancel) =>
        editing.AnswerAsync(
            _state,
            Writes,
            number,
            new TopicAnswer
            {
                Text = text,
                Status = status,
                Assigned = to,
            },
            by,
            cancel
        );

    private async Task ImportAsync(string name, TopicArchive archive, Actor by, CancellationToken cancel)
    {
        using var stream = new MemoryStream();
        TopicArchiveWriter.Write(archive, stream, cancel);
        stream.Position = 0;
        var id = await exchange.UploadAsync(_state.Job, Writes, name, stream, by, cancel);
        await exchange.ImportAsync(_state, Writes, id, TopicFrame.ByTopic, new HashSet<string>(), by, cancel);
    }

    private static DateOnly In(int days) => DateOnly.FromDateTime(DateTime.UtcNow).AddDays(days);

    private async Task<Actor> PersonAsync(string name)
    {
        var user = await db.Users.FirstAsync(u => u.Email == $"{name}@heron.example");
        return new Actor(user.Id, "");
    }
}
