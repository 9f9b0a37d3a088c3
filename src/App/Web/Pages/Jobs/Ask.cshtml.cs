using System.Globalization;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Topics;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Asks something: about nothing in particular, about elements, or about what the combined view shows.</summary>
[RequestSizeLimit(64 << 20)]
public sealed partial class AskModel(JobAccess access, TopicQuery query, TopicEditing editing, TopicViews views)
    : JobPage(access)
{
    private const int MostElements = 200;

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>Words, parties and people.</summary>
    public TopicBoard Board { get; private set; } = null!;

    /// <summary>What the form says.</summary>
    [BindProperty(SupportsGet = true)]
    public TopicForm Form { get; set; } = new();

    /// <summary>GlobalIds of the elements it is about.</summary>
    [BindProperty(SupportsGet = true, Name = "element")]
    public List<string> Elements { get; set; } = [];

    /// <summary>What it is made from.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Cause { get; set; }

    /// <summary>The place it is about, metres in the job's frame: <c>x,y,z</c>.</summary>
    [BindProperty(SupportsGet = true)]
    public string? At { get; set; }

    /// <summary>Shows the form.</summary>
    public async Task<IActionResult> OnGetAsync()
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        await LoadAsync();
        return Page();
    }

    /// <summary>Asks.</summary>
    /// <param name="view">What the combined view shows; null where it is not asked there.</param>
    /// <param name="aspect">Width of its picture by its height.</param>
    /// <param name="picture">The picture.</param>
    /// <param name="plain">The picture without what is drawn on it.</param>
    /// <param name="marks">What is drawn on it (<see cref="PictureMarks"/>).</param>
    public async Task<IActionResult> OnPostAsync(
        string? view,
        string? aspect,
        IFormFile? picture,
        IFormFile? plain,
        string? marks
    )
    {
        if (!Permissions.MayWriteTopics)
            return StatusCode(403);
        int number = 0;
        bool isNew = true;
        var done = await TryAsync(
            async () =>
            {
                State = await StateAsync();
                (number, isNew) = await editing.AskAsync(
                    State,
                    Permissions,
                    Form.Wish() with
                    {
                        View = await ViewAsync(view, aspect),
                        Picture = await BytesAsync(picture),
                        Drawn = await DrawnAsync(plain, marks),
                        Elements = Known(),
                        At = AskLink.PlaceOf(At),
                        Cause = Cause is { } cause && Sound().IsMatch(cause) ? cause : null,
                    },
                    Actor,
                    HttpContext.RequestAborted
                );
            },
            "",
            LoadAsync
        );
        if (number == 0)
            return done;
        Done = isNew ? $"T-{number} is asked." : $"T-{number} asks about this already; answer it, or change it.";
        return Redirect($"/jobs/{Job.Code}/topics/{number}");
    }

    /// <summary>The bytes of an uploaded picture; null for none.</summary>
    internal static async Task<byte[]?> BytesAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0)
            return null;
        if (file.Length > TopicEditing.LargestPicture)
            throw new RefusedException(
                RefusalKind.Wrong,
                $"{file.FileName} has more than {TopicEditing.LargestPicture >> 20} MB; take a smaller one."
            );
        using var stream = new MemoryStream();
        await file.CopyToAsync(stream);
        return stream.ToArray();
    }

    /// <summary>What is drawn on a picture, and the picture without it; null where nothing is.</summary>
    internal static async Task<(PictureMarks Marks, byte[] Plain)?> DrawnAsync(IFormFile? plain, string? marks)
    {
        if (string.IsNullOrEmpty(marks) || await BytesAsync(plain) is not { } bytes)
            return null;
        TopicEditing.PictureKind(bytes);
        return (PictureMarks.Read(marks), bytes);
    }

    private async Task<ViewInfo?> ViewAsync(string? view, string? aspect) =>
        string.IsNullOrEmpty(view)
            ? null
            : await views.ReadAsync(
                State,
                view,
                double.TryParse(aspect, CultureInfo.InvariantCulture, out double ratio) ? ratio : null,
                HttpContext.RequestAborted
            );

    private List<string> Known() => [.. Elements.Where(e => e.Length is > 0 and <= 64).Distinct().Take(MostElements)];

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Board = await query.BoardAsync(Job.Id, HttpContext.RequestAborted);
        Elements = Known();
    }

    [GeneratedRegex(@"^(finding|amendment|order|change|drawing) [\w$.: -]{1,200}$")]
    private static partial Regex Sound();
}
