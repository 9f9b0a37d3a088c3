using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A point known in two frames.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Source">Where it lies in the source's own frame, metres.</param>
/// <param name="Job">Where it lies in the job's frame, metres.</param>
/// <param name="HasPlan">Whether x and y of both count; false for a level.</param>
/// <param name="HasHeight">Whether z of both counts; false for a point of a plan.</param>
/// <param name="Used">Whether it takes part in the fit; one that is switched off still has its residual.</param>
public sealed record ControlPoint(
    string Name,
    Vec3 Source,
    Vec3 Job,
    bool HasPlan = true,
    bool HasHeight = true,
    bool Used = true
);
