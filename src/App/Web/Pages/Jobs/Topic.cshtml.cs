using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>One topic: a sentence as its form, its views, its thread, and the next answer.</summary>
[RequestSizeLimit(80 << 20)]
public sealed class TopicModel(
    JobAccess access,
    TopicQuery query,
    TopicEditing editing,
    TopicViews views,
    TopicExchange exchange,
    TopicPictures pictures
) : JobPage(access)
{
    private const long LargestAttachment = 32 << 20;

    /// <summary>The topic.</summary>
    public TopicPage Shown { get; private set; } = null!;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>For each view with a camera the address that shows it in the combined view.</summary>
    public IReadOnlyDictionary<string, string> Addresses { get; private set; } = new Dictionary<string, string>();

    /// <summary>Elements of its views that the newest revisions do not have.</summary>
    public IReadOnlyList<string> Gone { get; private set; } = [];

    /// <summary>Number and title of related topics, by GUID.</summary>
    public IReadOnlyDictionary<string, (int Number, string Title)> Related { get; private set; } =
        new Dictionary<string, (int, string)>();

    /// <summary>The view that is shown large.</summary>
    [BindProperty(SupportsGet = true)]
    public string? View { get; set; }

    /// <summary>What the form says.</summary>
    [BindProperty]
    public TopicForm Form { get; set; } = new();

    /// <summary>The thread: comments and what happened between them, the first first.</summary>
    public IEnumerable<(DateTime At, TopicComment? Comment, TopicEvent? Event)> Thread =>
        Shown
            .Topic.Comments.Select(c => (TopicDates.Of(c.Date).UtcDateTime, (TopicComment?)c, (TopicEvent?)null))
            .Concat(
                Shown
                    .Events.Where((e, n) => !IsFirst(e, n) && DisplayText.Happened(e, Shown.Board) is not null)
                    .Select(e => (e.At, (TopicComment?)null, (TopicEvent?)e))
            )
            .OrderBy(t => t.Item1);

    // Who owed the first answer is in the sentence above; that it was handed over is no news.
    private bool IsFirst(TopicEvent e, int number) =>
        number == 1
        && e.Did == TopicAction.Assigned
        && Shown.Events[0].Did == TopicAction.TopicCreated
        && e.At - Shown.Events[0].At < TimeSpan.FromSeconds(1);

    /// <summary>Whether a comment is the reader's own.</summary>
    public bool IsOwn(TopicComment comment) =>
        Permissions.MayAnswerTopics && Shown.Board.PersonOf(comment.Author ?? "").Id == Caller.Id(User);

    /// <summary>Whether the reader asked it.</summary>
    public bool IsOwnTopic => Shown.Board.PersonOf(Shown.Row.Author).Id == Caller.Id(User);

    /// <summary>What is drawn on the picture of a view; null for nothing.</summary>
    public PictureMarks? MarksOf(Viewpoint view)
    {
        if (
            Shown.Topic.Parts.FirstOrDefault(p => p.Name == TopicEditing.MarksOf(view.Guid))
            is not { Length: < 1 << 20 } part
        )
            return null;
        try
        {
            return PictureMarks.Read(System.Text.Encoding.UTF8.GetString(part.Bytes(HttpContext.RequestAborted)));
        }
        catch (SteadyLintel.Exchange.OrderException)
        {
            // A file of that name came from elsewhere.
            return null;
        }
    }

    /// <inheritdoc/>
    protected override bool IsForRecipients => true;

    private int Number => int.Parse((string)RouteData.Values["number"]!, CultureInfo.InvariantCulture);

    /// <summary>Shows it.</summary>
    public async Task<IActionResult> OnGetAsync() => await LoadAsync() ? Page() : NotFound();

    /// <summary>A file of it: a picture, small where that is asked for, or an attachment to download.</summary>
    /// <param name="name">Its name; null for the topic's picture.</param>
    /// <param name="small">Whether a small picture is enough.</param>
    public async Task<IActionResult> OnGetPictureAsync(string? name, bool small)
    {
        if (
            await query.PartAsync(Job.Id, Permissions, Number, name, HttpContext.RequestAborted) is not { } part
            || pictures.Of(part, small, HttpContext.RequestAborted) is not var (bytes, type)
        )
            return NotFound();
        Response.Headers.CacheControl = "private, max-age=600";
        return File(bytes, type);
    }

    /// <summary>Downloads an attachment.</summary>
    public async Task<IActionResult> OnGetPartAsync(string? name)
    {
        if (await query.PartAsync(Job.Id, Permissions, Number, name ?? "", HttpContext.RequestAborted) is not { } part)
            return NotFound();
        return File(part.Bytes(HttpContext.RequestAborted), "application/octet-stream", Path.GetFileName(part.Name));
    }

    /// <summary>Downloads a document of the job that the topic refers to.</summary>
    public async Task<IActionResult> OnGetDocumentAsync(string? guid) =>
        await query.DocumentAsync(Job.Id, Permissions, guid ?? "", HttpContext.RequestAborted) is var (name, part)
            ? File(part.Bytes(HttpContext.RequestAborted), "application/octet-stream", name)
            : NotFound();

    /// <summary>Says when it changes, as server-sent events.</summary>
    public Task<IActionResult> OnGetLiveAsync() =>
        TopicLive.WriteAsync(HttpContext, () =>
            query.StampAsync(Job.Id, Permissions, Number, HttpContext.RequestAborted)
        );

    /// <summary>Downloads it as a topic file.</summary>
    public async Task<IActionResult> OnGetFileAsync(string? version, string? frame)
    {
        if (!await LoadAsync())
            return NotFound();
        var stream = new MemoryStream();
        await exchange.ExportAsync(
            State,
            Permissions,
            [Shown.Row.Id],
            version == "2.1" ? TopicVersion.V21 : TopicVersion.V30,
            TopicFrame.Read(frame),
            stream,
            HttpContext.RequestAborted
        );
        return File(stream.ToArray(), "application/zip", $"{Job.Code}-T-{Number}.bcf");
    }

    /// <summary>Answers.</summary>
    /// <param name="text">The comment.</param>
    /// <param name="how"><c>close</c> to close it; a status; null for the same status.</param>
    /// <param name="to">Who owes the next answer; null for the same.</param>
    /// <param name="about">The view that the comment is about.</param>
    /// <param name="view">What the combined view shows; null for no new view.</param>
    /// <param name="aspect">Width of its picture by its height.</param>
    /// <param name="picture">The picture.</param>
    /// <param name="plain">The picture without what is drawn on it.</param>
    /// <param name="marks">What is drawn on it.</param>
    /// <param name="files">Files that are attached.</param>
    public async Task<IActionResult> OnPostAnswerAsync(
        string? text,
        string? how,
        string? to,
        string? about,
        string? view,
        string? aspect,
        IFormFile? picture,
        IFormFile? plain,
        string? marks,
        List<IFormFile> files
    )
    {
        if (!Permissions.MayAnswerTopics)
            return StatusCode(403);
        if (!await LoadAsync())
            return NotFound();
        return await TryAsync(
            async () =>
            {
                var attached = new List<(string, byte[])>();
                foreach (var file in files)
                    attached.Add((file.FileName, await ContentAsync(file)));
                await editing.AnswerAsync(
                    State,
                    Permissions,
                    Number,
                    new TopicAnswer
                    {
                        Text = text,
                        Status = how == "close" ? Shown.Board.Settings.ClosingOf(Shown.Board.Words) : how,
                        Assigned = to,
                        About = about,
                        View = string.IsNullOrEmpty(view)
                            ? null
                            : await views.ReadAsync(
                                State,
                                view,
                                double.TryParse(aspect, CultureInfo.InvariantCulture, out double ratio) ? ratio : null,
                                HttpContext.RequestAborted
                            ),
                        Picture = await AskModel.BytesAsync(picture),
                        Drawn = await AskModel.DrawnAsync(plain, marks),
                        Files = attached,
                    },
                    Actor,
                    HttpContext.RequestAborted
                );
            },
            how == "close" ? $"T-{Number} is closed." : "The answer is sent.",
            async () => await LoadAsync()
        );
    }

    /// <summary>Changes what it says of itself.</summary>
    public async Task<IActionResult> OnPostSaveAsync(int version, string? status)
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        if (!await LoadAsync())
            return NotFound();
        return await TryAsync(
            () =>
                editing.ChangeAsync(
                    State,
                    Permissions,
                    Number,
                    version,
                    Form.Wish(),
                    status,
                    Actor,
                    HttpContext.RequestAborted
                ),
            "Saved.",
            async () => await LoadAsync()
        );
    }

    /// <summary>Edits or withdraws one's own comment.</summary>
    public async Task<IActionResult> OnPostCommentAsync(string? comment, string? text, string? how)
    {
        if (!Permissions.MayAnswerTopics)
            return StatusCode(403);
        if (!await LoadAsync())
            return NotFound();
        return await TryAsync(
            () =>
                editing.EditCommentAsync(
                    State,
                    Permissions,
                    Number,
                    comment ?? "",
                    how == "withdraw" ? null : text ?? "",
                    Actor,
                    HttpContext.RequestAborted
                ),
            how == "withdraw" ? "The comment is withdrawn; the history has it." : "The comment is changed.",
            async () => await LoadAsync()
        );
    }

    private async Task<bool> LoadAsync()
    {
        if (await query.OneAsync(Job.Id, Permissions, Number, HttpContext.RequestAborted) is not { } page)
            return false;
        Shown = page;
        State = await StateAsync();
        Related = await query.NumbersAsync(Job.Id, Permissions, page.Topic.RelatedTopics, HttpContext.RequestAborted);
        if (!Permissions.MaySeeJob)
            return true;
        var frame = TopicQuery.FrameOf(State.Model, page.Row.FrameOf);
        var addresses = new Dictionary<string, string>();
        foreach (var v in page.Topic.Viewpoints)
            if (v.Info is { } info)
                addresses[v.Guid] = await views.AddressAsync(Job.Id, info, frame, HttpContext.RequestAborted);
        Addresses = addresses;
        Gone = await views.GoneAsync(State, page.Row.Elements, HttpContext.RequestAborted);
        return true;
    }

    private static async Task<byte[]> ContentAsync(IFormFile file)
    {
        if (file.Length > LargestAttachment)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"{file.FileName} has more than {LargestAttachment >> 20} MB; attach a link to it instead."
            );
        using var stream = new MemoryStream();
        await file.CopyToAsync(stream);
        return stream.ToArray();
    }
}
