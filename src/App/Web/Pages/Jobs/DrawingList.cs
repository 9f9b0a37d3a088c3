using System.Buffers.Binary;
using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>The drawings of a job with what is on their sheets, and its details.</summary>
/// <param name="Job">The job.</param>
/// <param name="State">The job as it is.</param>
/// <param name="Sheets">The layouts of each drawing, by revision.</param>
/// <param name="Details">The library of details.</param>
/// <param name="MaySee">Whether the files of a party may be seen by who looks.</param>
public sealed record DrawingList(
    Job Job,
    JobState State,
    IReadOnlyDictionary<Guid, IReadOnlyList<DrawingLayout>> Sheets,
    IReadOnlyList<KeptDetail> Details,
    Func<Guid, bool> MaySee
);
