using GateSplit.Core;
using GateSplit.Core.Templates;
using GateSplit.Data;

namespace GateSplit.Web.Endpoints;

/// <summary>Templates as files.</summary>
public static class TemplateEndpoints
{
    /// <summary>Maps /templates/{id}.json.</summary>
    public static void MapTemplates(this IEndpointRouteBuilder app) => app.MapMethods("/templates/{id:long}.json", ["GET", "HEAD"], async (long id, int? version, TemplateStore templates) =>
        await templates.Find(id, version) is { Ok: true } found
            ? Results.File(TemplateFile.Write(found.Value), "application/json", FileName.Clean(found.Value.Name) + ".template.json")
            : Results.NotFound());
}
