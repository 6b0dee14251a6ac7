using System.Collections.Immutable;
using EvenThimble.Core.Geometry;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;

namespace EvenThimble.Core.Hoopings;

/// <summary>A part of which something cannot sew where it should.</summary>
/// <param name="Part">Which part.</param>
/// <param name="Record">The first record of the plan that is concerned.</param>
/// <param name="Outside">No field reaches it; else it would sew in the wrong order of layers.</param>
public readonly record struct StrayPart(PartId Part, int Record, bool Outside);

/// <summary>A part that was given to a hooping by hand and does not sew there as a whole.</summary>
/// <param name="Part">Which part.</param>
/// <param name="Hooping">The number of the hooping that it was given to, from 0.</param>
/// <param name="Outside">It does not lie in the field; else what lies over or under it stands in the way.</param>
public readonly record struct UngivenPart(PartId Part, int Hooping, bool Outside);

/// <summary>A job as it is sewn, hooping by hooping. A job that is not divided is one hooping.</summary>
public sealed class HoopedJob
{
    private readonly Division? _division;
    private readonly SeamMap _seams;
    private readonly SewingPlan _plan;

    private HoopedJob(Job job, SewingPlan plan, MachineCatalogue machines, Division? known)
    {
        _plan = plan;
        var places = job.Hoopings.Select(h => PlacedField.Of(h, machines)).ToList();
        _seams = new(places, job.Split.Seams);
        Crosses = job.Crosses is { } wish && places.Count > 1 && plan.StitchCount > 0 ? RegistrationCrosses.SpotsOf(wish, plan, places, (a, b) => _seams.LineOf(a, b, plan.Bounds)) : [];
        _division = places.Count > 1 ? known ?? Division.Of(plan, places, ClothCells.Of(plan), job.Split) : null;
        Hoopings = [.. job.Hoopings.Select((hooping, n) =>
        {
            var stitches = _division is null ? plan : HoopedStitches.Of(plan, _division, n);
            var crosses = CrossesOf(places[n], n, places).ToList();
            return new HoopedPlan(n + 1, places.Count, hooping, places[n], stitches.StitchCount == 0 ? stitches : HoldingLines.With(stitches, job, places[n], crosses, places.Count > 1 ? Says(hooping, n, places) : string.Empty), crosses.Count > 0 ? crosses[0] : places[n].Centre);
        })];
        if (_division is null) return;
        Strays = [.. _division.Stray.Select(n => (Portion: _division.Portions[n], Outside: !Enumerable.Range(0, places.Count).Any(h => _division.Fits(n, h))))
            .GroupBy(s => s.Portion.Part).Select(g => new StrayPart(plan.Parts[g.Key].Id, g.First().Portion.First, g.Any(s => s.Outside)))];
        Ungiven = [.. job.Split.Given.Where(g => HoopingsOf(g.Part) is var its && its.Length > 0 && !(its.Length == 1 && its[0] == g.Hooping))
            .Select(g => new UngivenPart(g.Part, g.Hooping, Enumerable.Range(0, _division.Portions.Count).Any(n => plan.Parts[_division.Portions[n].Part].Id == g.Part && !_division.Fits(n, g.Hooping))))];
    }

    /// <summary>What is sewn each time, in order.</summary>
    public ImmutableArray<HoopedPlan> Hoopings { get; }

    /// <summary>Where crosses are sewn, mm.</summary>
    public ImmutableArray<Point> Crosses { get; }

    /// <summary>Parts that have no place in the division.</summary>
    public ImmutableArray<StrayPart> Strays { get; } = [];

    /// <summary>Parts that are not where they were given to.</summary>
    public ImmutableArray<UngivenPart> Ungiven { get; } = [];

    /// <summary>Whether it is divided.</summary>
    public bool IsDivided => Hoopings.Length > 1;

    /// <summary>Divides a job's plan among its hoopings.</summary>
    public static HoopedJob Of(Job job, SewingPlan plan, MachineCatalogue machines) => new(job, plan, machines, null);

    /// <summary>Finds the hoopings of a job for a machine and one of its hoops, and divides it among them.</summary>
    /// <returns>The job with its hoopings, and what is sewn in them.</returns>
    /// <exception cref="Text.EditRefusedException">It cannot be divided so, or need not be; the message says why.</exception>
    public static (Job Job, HoopedJob Hooped) Dividing(Job job, SewingPlan plan, SewingMachineModel machine, HoopField field, MachineCatalogue machines)
    {
        var (hoopings, division) = FewestHoopings.Find(plan, machine, field);
        var divided = new DivideAmong(hoopings, field.Name).Apply(job);
        return (divided, new(divided, plan, machines, division));
    }

    /// <summary>The numbers (from 0) of the hoopings that a part sews in, in order.</summary>
    public ImmutableArray<int> HoopingsOf(PartId part) => _division is not { } division ? [0]
        : [.. Enumerable.Range(0, division.Portions.Count).Where(n => _plan.Parts[division.Portions[n].Part].Id == part).Select(n => division.Hooping[n]).Distinct().Order()];

    /// <summary>By record of the job's plan the number (from 0) of the hooping that sews it.</summary>
    public int[] HoopingOfRecords()
    {
        var of = new int[_plan.Records.Count];
        if (_division is { } division)
            for (var n = 0; n < division.Portions.Count; n++)
                Array.Fill(of, division.Hooping[n], division.Portions[n].First, division.Portions[n].End - division.Portions[n].First);
        return of;
    }

    /// <summary>All seams: between which hoopings (from 0), and where, mm.</summary>
    public IEnumerable<Seam> Seams()
    {
        for (var first = 0; first < Hoopings.Length; first++)
            for (var second = first + 1; second < Hoopings.Length; second++)
                if (_seams.LineOf(first, second, _plan.Bounds) is { } line)
                    yield return new(first, second, line);
    }

    /// <summary>What is to be done before a hooping is sewn.</summary>
    private static string Says(Hooping hooping, int number, List<PlacedField> places) =>
        $"Hooping {number + 1} of {places.Count}: {(hooping.Position is { } position ? $"hoop at position {position} of {places[number].Field.Positions}" : number == 0 ? "hoop the cloth at mark 1" : $"hoop the cloth again at mark {number + 1}")}";

    /// <summary>The crosses that a hooping sews: those that it reaches, when another reaches them too.</summary>
    private IEnumerable<Point> CrossesOf(PlacedField place, int own, List<PlacedField> places) =>
        Crosses.Where(spot => RegistrationCrosses.Takes(place, spot) && places.Where((p, n) => n != own && RegistrationCrosses.Takes(p, spot)).Any());
}
