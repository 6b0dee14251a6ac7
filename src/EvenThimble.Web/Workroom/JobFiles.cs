using EvenThimble.Core.Colour;
using EvenThimble.Core.Files.Jobs;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Jobs;
using EvenThimble.Core.Machines;
using EvenThimble.Core.Planning;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Text;
using EvenThimble.Rendering;
using EvenThimble.Storage;
using Microsoft.Net.Http.Headers;

namespace EvenThimble.Web.Workroom;

/// <summary>What is downloaded of jobs and designs: streams, pictures and files.</summary>
public static class JobFiles
{
    /// <summary>Addresses below <c>/jobs/{id}</c>.</summary>
    public static void MapJobFiles(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/jobs/{id:long}/plan", (long id, JobDesk desk) => desk.Find(id) is { } job
            ? Results.Bytes(job.Stream, "application/octet-stream", entityTag: Tag(job.PlanTag))
            : Results.NotFound());
        routes.MapGet("/jobs/{id:long}/density.png", (long id, JobDesk desk) => desk.Find(id) is { } job
            ? Results.Bytes(DensityPainter.Picture(Density(job)), "image/png")
            : Results.NotFound());
        routes.MapGet("/jobs/{id:long}/picture.png", (long id, JobDesk desk) => desk.Find(id) is { } job
            ? Results.Bytes(job.Picture, "image/png", entityTag: Tag($"{id}-{job.Stored.Version}"))
            : Results.NotFound());
        routes.MapGet("/jobs/{id:long}/in/{machine}/{hoop}.png", (long id, string machine, string hoop, JobDesk desk, MachineCatalogue machines) =>
            desk.Find(id) is { } job && machines.Find(machine)?.FindHoop(hoop) is { } field
                ? Results.Bytes(HoopPainter.Picture(job.Plan.ToFile(job.Job.Title), [.. field.AllPositions.Select(p => field.Edge().Select(e => e + p.Offset).ToList())], job.Job.Cloth.Colour, 128, 128), "image/png", entityTag: Tag($"{id}-{job.PlanTag}-{machines.Version}-{hoop}"))
                : Results.NotFound());
        routes.MapGet("/jobs/{id:long}/export/{kind}", Export);
        routes.MapGet("/jobs/{id:long}/case", (long id, JobDesk desk, JobCase cases) => desk.Find(id) is { } job
            ? Results.File(cases.Pack(job), "application/zip", Titles.FileName(job.Job.Title) + JobArchive.Extension)
            : Results.NotFound());
        routes.MapGet("/jobs/{id:long}/on/{cloth}.png", (long id, string cloth, JobDesk desk, ClothStore cloths) => desk.Find(id) is { } job && cloths.Find(cloth) is { } profile
            ? Results.Bytes(desk.PictureOn(job, profile), "image/png")
            : Results.NotFound());
        routes.MapGet("/looks/{kind}/{id}.png", (string kind, string id, StitchLooks looks) => looks.Find(kind, id) is { } picture
            ? Results.Bytes(picture, "image/png", entityTag: Tag($"look-{kind}-{id}"))
            : Results.NotFound());
    }

    /// <summary>Addresses below <c>/designs/{id}</c>.</summary>
    public static void MapDesignFiles(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/designs/{id:long}/original", (long id, DesignStore designs) => designs.Original(id) is { } original
            ? Results.File(original.Bytes, "application/octet-stream", Titles.FileName(original.FileName))
            : Results.NotFound());
        routes.MapGet("/designs/{id:long}/picture.png", (long id, DesignStore designs) => designs.Picture(id) is { } picture
            ? Results.Bytes(picture, "image/png", entityTag: Tag($"d{id}"))
            : Results.NotFound());
    }

    private static IResult Export(long id, string kind, JobDesk desk)
    {
        if (StitchFormats.Find(kind) is not { } wanted || desk.Find(id) is not { } job) return Results.NotFound();
        try
        {
            return Results.File(StitchFormats.Write(wanted, WithPicture(job.ToFile(), wanted, job.Job.Cloth.Colour)), wanted.MediaType, Titles.FileName(job.Job.Title) + wanted.Extension);
        }
        catch (StitchFileException e)
        {
            return Results.Text(e.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
        }
    }

    /// <summary>A file; of revision 2 it carries its picture on a cloth of a colour.</summary>
    public static StitchFile WithPicture(StitchFile file, StitchFileKind kind, Rgb cloth) =>
        kind == StitchFileKind.Evth2 && file.StitchCount > 0 ? file with { Picture = ThreadPainter.Picture(file, 240, 180, cloth) } : file;

    private static DensityMap Density(OpenJob job)
    {
        var hidden = job.Job.Order.Where(p => p.Hidden).Select(p => p.Id).ToHashSet();
        return DensityMap.Of(job.Plan, p => !hidden.Contains(p.Id));
    }

    private static EntityTagHeaderValue Tag(string tag) => new($"\"{tag}\"");
}
